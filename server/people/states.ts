// A face as the ledger records it.

/** What is said of a face (`f`), as the ledger keeps it. */
export const FACE_STATE = `jsonb_build_object('state', f.state, 'person', f.person_id, 'refused', to_jsonb(f.refused),
  'box', jsonb_build_array(f.box_left, f.box_top, f.box_width, f.box_height))`;
