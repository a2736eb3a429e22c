// The places of the work in its order; drives, running jobs and the person at the right.

import { useQuery } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { use, useState } from 'react';
import { NavLink, useNavigate } from 'react-router';
import { driveRoutes } from '@stellin/contract/drives';
import { mayCall } from '@stellin/contract/accounts';
import { deliveringRoutes } from '@stellin/contract/delivering';
import { intakeRoutes } from '@stellin/contract/intake';
import type { Route } from '@stellin/contract/route';
import { teamRoutes } from '@stellin/contract/team';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { roomRoutes } from '@stellin/contract/room';
import { sizeText } from '@stellin/contract/sizeText';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { MarksDialog } from '../marks/MarksDialog';
import { Mark } from '../parts/Mark';
import { useOverview } from '../writeback/queries';
import { JobsChip } from './JobsChip';
import { PersonContext, useKeepTheme, useMayCall, useSignOut } from '../foundation/session';
import { applyTheme, currentTheme } from '../foundation/theme';

/** In the order of the work; those that belong to some work are there for who may do it. */
const PLACES: readonly { path: string; label: string; route?: Route }[] = [
  { path: '/holdings', label: 'Holdings' },
  { path: '/intake', label: 'Intake', route: intakeRoutes.takeIn },
  { path: '/desk', label: 'Desk' },
  { path: '/vocabulary', label: 'Vocabulary' },
  { path: '/people', label: 'People' },
  { path: '/places', label: 'Places' },
  { path: '/projects', label: 'Projects' },
  { path: '/write-back', label: 'Write-back', route: writeBackRoutes.run },
  { path: '/deliver', label: 'Deliver', route: deliveringRoutes.deliver },
  { path: '/ledger', label: 'Ledger' },
];

export function TopLine() {
  const waiting = useWaiting();
  const person = use(PersonContext);
  const places = PLACES.filter(({ route }) => !route || mayCall(person, route));
  return (
    <header className="flex h-11 shrink-0 items-center gap-1 bg-bar px-3 text-[#e6ebe9]">
      <span className="mr-2 flex items-center gap-2 font-title text-[17px] font-semibold xl:mr-5">
        <Mark /> Stellin
      </span>
      <nav aria-label="Places" className="flex h-full">
        {places.map(({ path, label }) => (
          <NavLink
            key={path}
            to={path}
            className={({ isActive }) =>
              `flex items-center gap-2 border-b-3 px-2 pt-[3px] whitespace-nowrap xl:px-2.5 2xl:px-3 ${isActive ? 'border-here bg-white/5 font-semibold' : 'border-transparent text-[#c3ccc8] hover:text-white'}`
            }
          >
            {label}
            {path === '/write-back' && waiting > 0 && (
              <span className="figures rounded-full bg-here px-2 text-[11px] font-semibold text-[#10211c]">
                {numberText(waiting)}
              </span>
            )}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-2">
        <RoomChip />
        <JobsChip className={CHIP} />
        <DrivesChip />
        <PersonMenu />
      </div>
    </header>
  );
}

function useWaiting(): number {
  const { data } = useOverview();
  return data?.drives.reduce((sum, drive) => sum + drive.waiting + drive.conflict + drive.failed, 0) ?? 0;
}

const CHIP = 'rounded border border-white/25 px-2.5 py-1 text-[12px] whitespace-nowrap hover:border-white/60';

/** How often the free room is asked for: other programs fill the disk as well, and nobody tells of that. */
const ROOM_MS = 60_000;

/** Says that the disk of the catalogue is filling up; nothing as long as there is room. */
function RoomChip() {
  const { data } = useQuery({
    queryKey: ['jobs', 'room'],
    queryFn: () => call(roomRoutes.showRoom, {}),
    refetchInterval: ROOM_MS,
  });
  if (!data || data.state === 'enough') return null;
  const isFull = data.state === 'none';
  return (
    <span
      role="status"
      title={
        isFull
          ? 'Work that takes room waits until there is some. Make room on the disk of the data folder.'
          : 'Make room on the disk of the data folder before it is full.'
      }
      className={`rounded px-2.5 py-1 text-[12px] font-semibold whitespace-nowrap ${isFull ? 'bg-red text-white' : 'bg-amber-pale text-amber'}`}
    >
      {isFull ? 'Disk full' : 'Disk filling up'}: {sizeText(data.freeBytes)} free
    </span>
  );
}

function DrivesChip() {
  const { data } = useQuery({ queryKey: ['drives', 'list'], queryFn: () => call(driveRoutes.listDrives, {}) });
  const mayTakeIn = useMayCall(intakeRoutes.takeIn);
  if (!data) return null;
  const count = (state: string) => data.drives.filter((drive) => drive.state === state).length;
  const others = [`${count('away')} away`, ...(count('new') ? [`${count('new')} new`] : [])];
  const said = (
    <>
      {countText(count('attached'), 'drive')}
      {/* Where the line is short there is room for the first count only. */}
      <span className="max-xl:hidden"> attached · {others.join(' · ')}</span>
    </>
  );
  return mayTakeIn ? (
    <NavLink to="/intake" className={CHIP}>
      {said}
    </NavLink>
  ) : (
    <span className="px-2.5 text-[12px] whitespace-nowrap text-[#c3ccc8]">{said}</span>
  );
}

function PersonMenu() {
  const person = use(PersonContext);
  const signOut = useSignOut();
  const [theme, setTheme] = useState(currentTheme);
  const keep = useKeepTheme();
  const [marks, setMarks] = useState(false);
  const navigate = useNavigate();
  const administers = useMayCall(teamRoutes.showTeam);
  const change = () => {
    const next = theme === 'dark' ? 'light' : 'dark';
    applyTheme(next);
    setTheme(next);
    keep.mutate(next);
  };
  const item = 'cursor-pointer rounded px-2.5 py-1.5 outline-none data-highlighted:bg-spruce-pale';
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className={CHIP}>{person?.displayName}</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={6}
            className="z-50 min-w-44 rounded-md border border-line bg-card p-1 text-ink shadow-lg"
          >
            <p className="px-2.5 py-1.5 text-ink-2">
              Signed in as <b>{person?.name}</b> ({person?.role})
            </p>
            <DropdownMenu.Item className={item} onSelect={() => setMarks(true)}>
              Marks of the team …
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={change}>
              {theme === 'dark' ? 'Light theme' : 'Dark theme'}
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => navigate('/account')}>
              Your account
            </DropdownMenu.Item>
            {administers && (
              <DropdownMenu.Item className={item} onSelect={() => navigate('/team')}>
                Team
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={() => signOut.mutate()}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {marks && <MarksDialog onClose={() => setMarks(false)} />}
    </>
  );
}
