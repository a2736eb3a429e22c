// Telling others what one looks at, and reading what they look at.

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { GONE_AFTER_MS, MAX_LOOKED_AT, onlookerRoutes, type Onlooker } from '@stellin/contract/onlookers';
import { call } from '../foundation/api';

/** What passes by quickly is told to nobody. */
const SETTLED_MS = 700;
const AGAIN_MS = GONE_AFTER_MS / 2;

/** Tells others that one looks at, or describes, photos, as long as the place that uses this is open. */
export function useLookingAt(photoIds: readonly number[], doing: Onlooker['doing']): void {
  const key = JSON.stringify({ photoIds: photoIds.length > MAX_LOOKED_AT ? [] : photoIds, doing });
  const told = useRef('');
  useEffect(() => {
    const tell = () => {
      told.current = key;
      // Whether others know is no concern of the work: what fails is told again soon.
      void call(onlookerRoutes.lookAt, { body: JSON.parse(key) as Pick<Onlooker, 'photoIds' | 'doing'> }).catch(
        () => undefined,
      );
    };
    const first = key === told.current ? undefined : setTimeout(tell, SETTLED_MS);
    const again = setInterval(tell, AGAIN_MS);
    return () => {
      clearTimeout(first);
      clearInterval(again);
    };
  }, [key]);
  useEffect(
    () => () => {
      if (told.current !== '')
        void call(onlookerRoutes.lookAt, { body: { photoIds: [], doing: 'looking' } }).catch(() => undefined);
    },
    [],
  );
}

/** Others who look at or describe some of these photos just now. */
export function useOnlookers(photoIds: readonly number[]): Onlooker[] {
  const { data = NOBODY } = useQuery({
    queryKey: ['onlookers'],
    queryFn: async () => (await call(onlookerRoutes.listOnlookers, {})).onlookers,
    // Nobody tells when somebody is gone.
    refetchInterval: ({ state }) => ((state.data?.length ?? 0) > 0 ? AGAIN_MS : false),
  });
  return data.length === 0 ? NOBODY : data.filter((each) => each.photoIds.some((id) => photoIds.includes(id)));
}
const NOBODY: Onlooker[] = [];
