// How many drives there are, by where they are.

import { useQuery } from '@tanstack/react-query';
import { NavLink } from 'react-router';
import { driveRoutes } from '@stellin/contract/drives';
import { intakeRoutes } from '@stellin/contract/intake';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { useMayCall } from '../foundation/session';

/** `4 drives attached · 2 away`, and how many of each; undefined until it is known. */
export function useDriveCounts(): { attached: string; others: string } | undefined {
  const { data } = useQuery({ queryKey: ['drives', 'list'], queryFn: () => call(driveRoutes.listDrives, {}) });
  if (!data) return undefined;
  const count = (state: string) => data.drives.filter((drive) => drive.state === state).length;
  return {
    attached: countText(count('attached'), 'drive'),
    others: [`${count('away')} away`, ...(count('new') ? [`${count('new')} new`] : [])].join(' · '),
  };
}

export function DrivesChip({ className }: { className: string }) {
  const drives = useDriveCounts();
  const mayTakeIn = useMayCall(intakeRoutes.takeIn);
  if (!drives) return null;
  const said = (
    <>
      {drives.attached}
      {/* Where the line is short there is room for the first count only. */}
      <span className="max-xl:hidden"> attached · {drives.others}</span>
    </>
  );
  return mayTakeIn ? (
    <NavLink to="/intake" className={className}>
      {said}
    </NavLink>
  ) : (
    <span className={`${className} border-transparent! text-[#c3ccc8]`}>{said}</span>
  );
}
