// How a photo is read as the interface shows it on sheets and in lists.

import { TIMED_KINDS } from '@stellin/core/metadata/containers/index';

const TIMED = TIMED_KINDS.map((kind) => `'${kind}'`).join(', ');

/** One whose preview is not made yet has a first version already: asking for it makes it at once. */
export const PREVIEW_VERSION = `case when p.preview_state = 0 and p.preview_version = 0 and d.attached and p.missing_since is null then 1 else p.preview_version end`;

/** That a photo, by an alias, exists for who asks; of whom all exist it costs nothing. */
export const alsoSeen = (alias: string, seen: string): string =>
  seen === 'true' ? '' : ` and ${alias}.id in (select p.id from photo p where p.id = ${alias}.id and ${seen})`;

/** The columns of a photo `p`. `seen`: the condition that a photo exists for who asks; only such are counted in its bundle. */
export const photoColumns = (
  seen: string,
): string => `p.id, p.name, p.kind, p.drive_id as "driveId", p.folder_id as "folderId", not d.attached as away, p.missing_since is not null as missing, p.damaged,
  case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
  case when p.kind in (${TIMED}) then (select (t.facts ->> 'duration')::float8 from photo_text t where t.photo_id = p.id) end as duration,
  to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", p.rating, p.mark, p.private,
  case when p.trashed_from is not null then 'trashed' when p.removed then 'removed' end as "setAside",
  case when p.bundle is not null then (select json_build_object('photos', count(*), 'leads', p.leads, 'closed', coalesce(bool_or(b.folded_into is not null), false)) from photo b where b.bundle = p.bundle${alsoSeen('b', seen)}) end as bundle,
  w.state as "writeState", null::boolean as described,
  json_build_object('terms', exists (select 1 from photo_term h where h.photo_id = p.id), 'caption', p.has_caption, 'people', p.has_people or exists (select 1 from face h where h.photo_id = p.id and h.state = 'named') or exists (select 1 from photo_person h where h.photo_id = p.id), 'location', p.has_location) as parts,
  v.placeholder, ${PREVIEW_VERSION} as "previewVersion"`;
export const PHOTO_JOINS = `join drive d on d.id = p.drive_id left join write_back w on w.photo_id = p.id left join photo_preview v on v.photo_id = p.id`;
