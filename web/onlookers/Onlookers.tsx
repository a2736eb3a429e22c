// Who else is at a photo: signs on its tile, a sentence in the drawer.

import { useOnlookers } from './queries';

const DOING = { looking: 'is looking at', describing: 'is describing' } as const;

function initials(name: string): string {
  return name
    .split(/\s+/)
    .map((word) => word.charAt(0))
    .slice(0, 2)
    .join('')
    .toUpperCase();
}

/** On a tile: the initials of each. */
export function OnlookerSigns({ photoId }: { photoId: number }) {
  const others = useOnlookers([photoId]);
  if (others.length === 0) return null;
  return (
    <span className="absolute top-1 left-1/2 flex -translate-x-1/2 gap-0.5">
      {others.map(({ name, doing }) => (
        <span
          key={`${name} ${doing}`}
          role="img"
          aria-label={`${name} ${DOING[doing]} this photo`}
          title={`${name} ${DOING[doing]} this photo`}
          className={`flex h-5 min-w-5 items-center justify-center rounded-full border px-1 text-[10px] font-semibold ${doing === 'describing' ? 'border-amber bg-amber-pale text-amber' : 'border-ink-3 bg-card text-ink'}`}
        >
          {initials(name)}
        </span>
      ))}
    </span>
  );
}

/** In the drawer: who else is at the chosen photos. */
export function OnlookerLine({ photoIds }: { photoIds: readonly number[] }) {
  const others = useOnlookers(photoIds);
  const those = photoIds.length > 1 ? 'some of these photos' : 'this photo';
  return (
    // There from the beginning, so that it is read out when somebody comes.
    <span role="status" className="min-w-0 truncate text-amber">
      {others.map(({ name, doing }) => `${name} ${DOING[doing]} ${those}`).join(' · ')}
    </span>
  );
}
