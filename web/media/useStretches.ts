// The stretches of a film or sound as the catalogue has them, and what is done to them.

import { useState } from 'react';
import { toast } from 'sonner';
import { stretchesOf, type Stretch } from '@stellin/core/media/stretches';
import { parseQuery } from '@stellin/core/search/language';
import { stretchesAsked } from '@stellin/core/search/stretches';
import { clockText } from '@stellin/core/media/moments';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { usePhoto } from '../photos/queries';

/** A stretch that was begun and ends within less is a slip of the hand. */
const LEAST_SECONDS = 0.04;

export function useStretches(photoId: number, duration: number) {
  const { data } = usePhoto(photoId);
  const change = useChange();
  const [begun, setBegun] = useState<number | null>(null);
  /** When the one that was made last begins. */
  const [made, setMade] = useState<number | null>(null);
  const fields = data?.fields as FieldValues | undefined;
  const stretches = stretchesOf(fields?.stretches, duration || undefined);
  /** Resolves to whether it is kept; what went wrong has been said then. */
  const keep = async (next: readonly Stretch[]): Promise<boolean> => {
    try {
      const seen = fields?.stretches ?? null;
      await change.mutateAsync({ kind: 'setStretches', photoId, stretches: next.map((each) => ({ ...each })), seen });
      return true;
    } catch {
      return false;
    }
  };
  return {
    isThere: data !== undefined,
    stretches,
    begun,
    fresh: stretches.find(({ from, name }) => from === made && name === '')?.key ?? null,
    keep,
    begin: (at: number) => {
      setBegun(at);
      toast(`A stretch begins at ${clockText(at)}. ${shownKey('zoomIn')} ends it.`);
    },
    end: (at: number) => {
      if (begun === null || at - begun < LEAST_SECONDS) {
        toast(`Begin a stretch first, with ${shownKey('zoomOut')}.`);
        return;
      }
      const [from, to] = [begun, at].map((seconds) => Math.round(seconds * 1000) / 1000) as [number, number];
      void keep([...stretches, { key: null, from, to, name: '', note: '', rating: 0, terms: [], people: [] }]);
      setBegun(null);
      setMade(from);
    },
  };
}

/** The first stretch that a query speaks of. */
export function askedIn(query: string, stretches: readonly Stretch[]): Stretch | undefined {
  return stretchesAsked(parseQuery(query).query, stretches)[0];
}
