// The drives: how many photos of what is looked at each has, whether it is away and since when, and how much room is left.

import { Link } from 'react-router';
import { numberText } from '@stellin/contract/wording';
import type { FigureCount } from '@stellin/contract/holdings';
import { sizeText } from '@stellin/contract/sizeText';
import { useDrives } from '../drives/queries';
import { useFixity } from '../fixity/queries';
import { deskLink } from '../parts/deskLink';
import { Failed } from '../parts/Queried';

export function DrivesCard({ figures }: { figures: readonly FigureCount[] }) {
  const read = useDrives();
  const fixity = useFixity().data?.drives ?? [];
  const drives = (read.data?.drives ?? []).filter(({ id }) => id !== null);
  return (
    <section aria-labelledby="drives" className="min-w-0 rounded border border-line bg-card px-3 py-2">
      <h3 id="drives" className="font-semibold">
        Drives
      </h3>
      <Failed query={read} />
      <table className="mt-1 w-full text-[13px]">
        <thead>
          <tr className="text-left text-[12px] text-ink-2">
            <th className="py-1 font-normal">Drive</th>
            <th className="text-right font-normal">Photos</th>
            <th className="pl-3 font-normal">State</th>
            <th className="text-right font-normal">Free</th>
            <th className="pl-3 text-right font-normal">Proven since</th>
          </tr>
        </thead>
        <tbody>
          {drives.map(({ key, id, label, state, lastSeen, freeBytes, capacityBytes }) => {
            const figure = figures.find((each) => each.label === label);
            return (
              <tr key={key} className="border-t border-line">
                <th className="py-0.5 text-left font-normal">
                  {figure ? (
                    <Link to={deskLink(figure.query)} className="text-slate hover:underline">
                      {label}
                    </Link>
                  ) : (
                    label
                  )}
                </th>
                <td className="figures text-right">{numberText(figure?.photos ?? 0)}</td>
                <td className="pl-3 text-[12px] text-ink-2">
                  {state === 'away' ? `away${lastSeen ? ` since ${lastSeen.slice(0, 10)}` : ''}` : state}
                </td>
                <td
                  className="figures text-right text-[12px] whitespace-nowrap text-ink-2"
                  title={capacityBytes === null ? '' : `of ${sizeText(capacityBytes)}`}
                >
                  {freeBytes === null ? '' : sizeText(freeBytes)}
                </td>
                <td className="figures pl-3 text-right text-[12px] whitespace-nowrap text-ink-2">
                  {fixity.find((each) => each.id === id)?.oldest?.slice(0, 10) ?? 'not yet'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
