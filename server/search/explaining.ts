// Why a photo is in a result, or is not.

import { explain, type Explanation } from '@stellin/core/search/explaining';
import { parseQuery } from '@stellin/core/search/language';
import { foldText } from '@stellin/core/text/words';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { today } from '../catalogue/clock';
import { viewpointOf, type Viewer } from '../catalogue/viewer';
import type { FinderClient } from './finder';
import type { Query } from '@stellin/core/query/query';
import type { Opened } from './opened';
import * as store from './store';

const MAX_CANDIDATES = 20;

export interface Why {
  candidates: { photoId: number; path: string }[];
  why: { photoId: number; path: string; shown: boolean; remark: string; explanation: Explanation } | null;
}

interface ExplainerParts {
  database: Database;
  finder: FinderClient;
  open: (text: string) => Promise<Opened>;
  textsFor: (query: Query) => Promise<(name: string) => string | undefined>;
  /** For whom it is. */
  viewer: Viewer;
}

export function explainer({ database, finder, open, textsFor, viewer }: ExplainerParts) {
  /** Explains a query for a photo, by its id, its name, or its drive and path. */
  return async function why(text: string, photo: number | string): Promise<Why> {
    const candidates = await store.photosCalled(
      database,
      typeof photo === 'number' ? photo : foldText(photo),
      MAX_CANDIDATES,
      viewer,
    );
    const [only] = candidates;
    if (!only)
      throw new StellinError('notFound', {
        what: typeof photo === 'number' ? 'such photo' : `photo called “${photo}”`,
      });
    if (candidates.length > 1) return { candidates, why: null };
    const { query } = parseQuery(text);
    const [{ query: opened }, textOf] = await Promise.all([open(text), textsFor(query)]);
    const order = { id: 'added', descending: false } as const;
    const [seen, position] = await Promise.all([
      finder.ask('photo', { id: only.photoId, from: viewpointOf(viewer) }),
      finder.ask('position', { id: only.photoId, asked: { query: opened }, order, from: viewpointOf(viewer) }),
    ]);
    if (!seen) throw new StellinError('notFound', { what: 'such photo' });
    const explanation = explain(query, seen.photo, today(), textOf);
    const shown = position !== undefined;
    return {
      candidates,
      why: {
        photoId: only.photoId,
        path: only.path,
        shown,
        remark: remarkOf(explanation.met, shown, seen),
        explanation,
      },
    };
  };
}

/** Why the sheet shows otherwise than the conditions say. */
function remarkOf(
  met: boolean,
  shown: boolean,
  { setAside, lead }: { setAside: boolean; lead: string | null },
): string {
  if (met === shown) return '';
  if (shown) return 'Another photo of its bundle meets all conditions, and it is the lead.';
  if (setAside) return 'It is in the trash or out of the catalogue: such photos are shown only when asked for.';
  return lead === null ? '' : `It stands behind ${lead}, the lead of its closed bundle.`;
}
