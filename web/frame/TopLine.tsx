// The places of the work in its order; drives, running jobs and the person at the right.

import { useQuery } from '@tanstack/react-query';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { use, useState } from 'react';
import { NavLink, useLocation, useNavigate } from 'react-router';
import { mayCall } from '@stellin/contract/accounts';
import { deliveringRoutes } from '@stellin/contract/delivering';
import { intakeRoutes } from '@stellin/contract/intake';
import type { Route } from '@stellin/contract/route';
import { teamRoutes } from '@stellin/contract/team';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { roomRoutes } from '@stellin/contract/room';
import { sizeText } from '@stellin/contract/sizeText';
import { numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { MarksDialog } from '../marks/MarksDialog';
import { Mark } from '../parts/Mark';
import { useOverview } from '../writeback/queries';
import { DrivesChip } from './DrivesChip';
import { JobsChip } from './JobsChip';
import { StatusChip } from './StatusChip';
import { PersonContext, useKeepTheme, useMayCall, useSignOut } from '../foundation/session';
import { applyTheme, currentTheme } from '../foundation/theme';

/** In the order of the work; those that belong to some work are there for who may do it. `folds`: on a short line it stands in a menu. */
const PLACES: readonly { path: string; label: string; folds?: true; route?: Route }[] = [
  { path: '/holdings', label: 'Holdings', folds: true },
  { path: '/intake', label: 'Intake', route: intakeRoutes.takeIn },
  { path: '/desk', label: 'Desk' },
  { path: '/vocabulary', label: 'Vocabulary' },
  { path: '/people', label: 'People' },
  { path: '/places', label: 'Places' },
  { path: '/projects', label: 'Projects', folds: true },
  { path: '/write-back', label: 'Write-back', folds: true, route: writeBackRoutes.run },
  { path: '/deliver', label: 'Deliver', folds: true, route: deliveringRoutes.deliver },
  { path: '/ledger', label: 'Ledger', folds: true },
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
        {places.map(({ path, label, folds }) => (
          <NavLink
            key={path}
            to={path}
            className={({ isActive }) =>
              `flex items-center gap-2 border-b-3 px-2 pt-[3px] whitespace-nowrap xl:px-2.5 2xl:px-3 ${folds ? 'max-[1199px]:hidden' : ''} ${isActive ? 'border-here bg-white/5 font-semibold' : 'border-transparent text-[#c3ccc8] hover:text-white'}`
            }
          >
            {label}
            {path === '/write-back' && <Waiting count={waiting} />}
          </NavLink>
        ))}
        <FoldedPlaces places={places.filter(({ folds }) => folds)} waiting={waiting} />
      </nav>
      <div className="ml-auto flex items-center gap-2">
        <RoomChip />
        <JobsChip className={`${CHIP} max-[1199px]:hidden`} />
        <DrivesChip className={`${CHIP} max-[1199px]:hidden`} />
        <StatusChip className={`${CHIP} min-[1200px]:hidden`} />
        <PersonMenu />
      </div>
    </header>
  );
}

/** How many photos wait to be written; nothing for none. */
function Waiting({ count }: { count: number }) {
  if (count === 0) return null;
  return (
    <span className="figures rounded-full bg-here px-2 text-[11px] font-semibold text-[#10211c]">
      {numberText(count)}
    </span>
  );
}

/** Places for which a short line has no room. */
function FoldedPlaces({ places, waiting }: { places: typeof PLACES; waiting: number }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const here = places.find(({ path }) => pathname.startsWith(path));
  const mayWrite = places.some(({ path }) => path === '/write-back');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`flex items-center gap-2 border-b-3 px-2 pt-[3px] whitespace-nowrap min-[1200px]:hidden ${here ? 'border-here bg-white/5 font-semibold' : 'border-transparent text-[#c3ccc8] hover:text-white'}`}
      >
        {here?.label ?? 'More'} <ChevronDown size={14} aria-hidden />
        {mayWrite && <Waiting count={waiting} />}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 min-w-44 rounded-md border border-line bg-card p-1 text-ink shadow-lg"
        >
          {places.map(({ path, label }) => (
            <DropdownMenu.Item key={path} className={ITEM} onSelect={() => void navigate(path)}>
              {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function useWaiting(): number {
  const { data } = useOverview();
  return data?.drives.reduce((sum, drive) => sum + drive.waiting + drive.conflict + drive.failed, 0) ?? 0;
}

const ITEM = 'cursor-pointer rounded px-2.5 py-1.5 outline-none data-highlighted:bg-spruce-pale';

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
            <DropdownMenu.Item className={ITEM} onSelect={() => setMarks(true)}>
              Marks of the team …
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={change}>
              {theme === 'dark' ? 'Light theme' : 'Dark theme'}
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/account')}>
              Your account
            </DropdownMenu.Item>
            {administers && (
              <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/team')}>
                Team
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={ITEM} onSelect={() => signOut.mutate()}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {marks && <MarksDialog onClose={() => setMarks(false)} />}
    </>
  );
}
