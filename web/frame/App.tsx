// The application: who is signed in, and the screen of each place.

import { QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, type ReactNode } from 'react';
import { BrowserRouter, Navigate, Outlet, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import type { SignedIn } from '@stellin/contract/accounts';
import { deliveringRoutes } from '@stellin/contract/delivering';
import { incomingTableRoutes } from '@stellin/contract/incomingTables';
import { intakeRoutes } from '@stellin/contract/intake';
import { keywordRoutes } from '@stellin/contract/keywords';
import { peopleRoutes } from '@stellin/contract/people';
import { reportRoutes } from '@stellin/contract/reports';
import type { Route as ApiRoute } from '@stellin/contract/route';
import { teamRoutes } from '@stellin/contract/team';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { AccountScreen } from '../accounts/AccountScreen';
import { TeamScreen } from '../accounts/TeamScreen';
import { DeliverScreen } from '../delivering/DeliverScreen';
import { OutgoingScreen } from '../mailing/OutgoingScreen';
import { LinksScreen } from '../sharing/LinksScreen';
import { SLIDE_WINDOW_PATH, SlideWindow } from '../delivering/SlideShow';
import { IncomingTablesScreen } from '../incomingTables/IncomingTablesScreen';
import { DeskScreen } from '../desk/DeskScreen';
import { SelectionProvider } from '../photos/selection';
import { WallScreen } from '../dossiers/WallScreen';
import { DoublesScreen } from '../doubles/DoublesScreen';
import { HoldingsScreen } from '../holdings/HoldingsScreen';
import { IntakeScreen } from '../intake/IntakeScreen';
import { KeywordsScreen } from '../intake/KeywordsScreen';
import { LedgerScreen } from '../ledger/LedgerScreen';
import { LikeScreen } from '../people/LikeScreen';
import { NamesScreen } from '../people/NamesScreen';
import { PeopleScreen } from '../people/PeopleScreen';
import { PersonScreen } from '../people/PersonScreen';
import { ReportsScreen } from '../reports/ReportsScreen';
import { ProjectsScreen } from '../projects/ProjectsScreen';
import { DragProvider } from '../parts/dragging/dragging';
import { Failure } from '../parts/Queried';
import { KeysProvider } from '../foundation/useKeys';
import { TooltipProvider } from '../parts/Tooltip';
import { SignInScreen } from '../signin/SignInScreen';
import { WelcomeScreen } from '../signin/WelcomeScreen';
import { VocabularyScreen } from '../vocabulary/VocabularyScreen';
import { Go } from '../stepping/GoDialog';
import { WalkScreen } from '../workLists/WalkScreen';
import { WriteBackScreen } from '../writeback/WriteBackScreen';
import { ReturnNotice } from '../writeback/ReturnNotice';
import { makeClient } from '../foundation/client';
import { ScreenBoundary } from './Broken';
import { FootLine } from './FootLine';
import { useLiveChanges } from '../foundation/live';
import { PersonContext, SESSION_KEY, useMayCall, useSession } from '../foundation/session';
import { applyTheme, currentTheme } from '../foundation/theme';
import { ServerAway } from './ServerAway';
import { TopLine } from './TopLine';

const client = makeClient();

/** Comes with the package that draws maps, which nobody else needs. */
const PlansScreen = lazy(async () => ({ default: (await import('../plans/PlansScreen')).PlansScreen }));
const PlacesScreen = lazy(async () => ({ default: (await import('../places/PlacesScreen')).PlacesScreen }));

export function App() {
  return (
    <QueryClientProvider client={client}>
      <TooltipProvider>
        <BrowserRouter>
          <KeysProvider>
            <Routes>
              <Route path="/welcome" element={<WelcomeScreen />} />
              <Route path="*" element={<Entrance />} />
            </Routes>
          </KeysProvider>
        </BrowserRouter>
        <Toaster
          position="bottom-center"
          offset={44}
          toastOptions={{ className: '!font-sans !text-base !bg-card !text-ink !border-line' }}
        />
      </TooltipProvider>
    </QueryClientProvider>
  );
}

/** The sign-in, or the application for the one who is signed in. */
function Entrance() {
  const session = useSession();
  if (session.isPending) return null;
  if (session.error) return <Failure error={session.error} onRetry={() => void session.refetch()} className="m-8" />;
  if (!session.data) return <SignInScreen />;
  return (
    <SignedInApp person={session.data}>
      <Routes>
        <Route element={<For route={deliveringRoutes.deliver} />}>
          <Route path={SLIDE_WINDOW_PATH} element={<SlideWindow />} />
        </Route>
        <Route element={<Frame />}>
          <Route path="/holdings" element={<HoldingsScreen />} />
          <Route element={<For route={reportRoutes.makeReport} />}>
            <Route path="/holdings/reports" element={<ReportsScreen />} />
          </Route>
          <Route path="/holdings/lists/:list" element={<WalkScreen />} />
          <Route path="/desk" element={<DeskScreen />} />
          <Route element={<For route={intakeRoutes.takeIn} />}>
            <Route path="/intake" element={<IntakeScreen />} />
          </Route>
          <Route element={<For route={keywordRoutes.listIncoming} />}>
            <Route path="/intake/keywords" element={<KeywordsScreen />} />
          </Route>
          <Route path="/intake/doubles" element={<DoublesScreen />} />
          <Route path="/vocabulary" element={<VocabularyScreen />} />
          <Route path="/dossiers" element={<WallScreen />} />
          <Route path="/people" element={<PeopleScreen />} />
          <Route element={<For route={peopleRoutes.findLike} />}>
            <Route path="/people/names" element={<NamesScreen />} />
            <Route path="/people/like" element={<LikeScreen />} />
          </Route>
          <Route path="/people/:id" element={<PersonScreen />} />
          <Route element={<For route={writeBackRoutes.run} />}>
            <Route path="/write-back" element={<WriteBackScreen />} />
          </Route>
          <Route
            path="/places"
            element={
              <Suspense fallback={<p className="p-6 text-ink-2">The map is being loaded …</p>}>
                <PlacesScreen />
              </Suspense>
            }
          />
          {['/places/plans', '/places/plans/:id'].map((path) => (
            <Route
              key={path}
              path={path}
              element={
                <Suspense fallback={<p className="p-6 text-ink-2">The plan is being loaded …</p>}>
                  <PlansScreen />
                </Suspense>
              }
            />
          ))}
          <Route path="/projects" element={<ProjectsScreen />} />
          <Route path="/projects/:id" element={<ProjectsScreen />} />
          <Route element={<For route={deliveringRoutes.deliver} />}>
            <Route path="/deliver" element={<DeliverScreen />} />
            <Route path="/deliver/links" element={<LinksScreen />} />
            <Route path="/deliver/mail" element={<OutgoingScreen />} />
          </Route>
          <Route element={<For route={incomingTableRoutes.listIncomingTables} />}>
            <Route path="/deliver/tables" element={<IncomingTablesScreen />} />
            <Route path="/deliver/tables/:id" element={<IncomingTablesScreen />} />
          </Route>
          <Route path="/ledger" element={<LedgerScreen />} />
          <Route element={<For route={teamRoutes.showTeam} />}>
            <Route path="/team" element={<TeamScreen />} />
          </Route>
          <Route path="/account" element={<AccountScreen />} />
          <Route path="*" element={<Navigate to="/desk" replace />} />
        </Route>
      </Routes>
    </SignedInApp>
  );
}

/** Screens of work that is not everybody’s: others are led to the Desk. */
function For({ route }: { route: ApiRoute }) {
  return useMayCall(route) ? <Outlet /> : <Navigate to="/desk" replace />;
}

function SignedInApp({ person, children }: { person: SignedIn; children: ReactNode }) {
  const queries = useQueryClient();
  useLiveChanges(queries);
  // How it looks is kept with the account.
  useEffect(() => {
    if (person.theme !== null && person.theme !== currentTheme()) applyTheme(person.theme);
  }, [person.theme]);
  // Whose rights are others sees something else: all that was read is read anew.
  const before = useRef(person.rights);
  useEffect(() => {
    if (before.current !== person.rights)
      void queries.resetQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION_KEY[0] });
    before.current = person.rights;
  }, [person.rights, queries]);
  return <PersonContext value={person}>{children}</PersonContext>;
}

function Frame() {
  return (
    <SelectionProvider>
      <DragProvider>
        <div className="flex h-full flex-col">
          <TopLine />
          <ServerAway />
          <ReturnNotice />
          <main className="min-h-0 flex-1">
            <ScreenBoundary>
              <Outlet />
            </ScreenBoundary>
          </main>
          <FootLine />
          <Go />
        </div>
      </DragProvider>
    </SelectionProvider>
  );
}
