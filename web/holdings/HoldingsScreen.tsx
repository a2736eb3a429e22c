// Holdings: what is to do, how safe the catalogue is, and figures of what there is. Each figure opens the Desk.

import { Link } from 'react-router';
import { reportRoutes } from '@stellin/contract/reports';
import { countText } from '@stellin/contract/wording';
import { BackupCard } from '../backup/BackupCard';
import { FixityCard } from '../fixity/FixityCard';
import { useMayCall } from '../foundation/session';
import { Failed } from '../parts/Queried';
import { useResult } from '../photos/result';
import { GivenCard } from '../workLists/GivenCard';
import { WorkListCards } from '../workLists/WorkListCards';
import { FigureGrid } from './FigureGrid';
import { useFigures } from './queries';
import { ScopeLine } from './ScopeLine';
import { SinceLine } from './SinceLine';
import { TimeCard } from './TimeCard';

export function HoldingsScreen() {
  const { query: scope, show } = useResult();
  const figures = useFigures(scope);
  const mayReport = useMayCall(reportRoutes.makeReport);
  const total = figures.data?.photos;
  const described = figures.data?.described;
  return (
    <div className="h-full overflow-y-auto p-6">
      <div className="flex items-baseline justify-between">
        <h1 className="font-title text-[22px] font-semibold">Holdings</h1>
        {mayReport && (
          <Link to="/holdings/reports" className="text-slate hover:underline">
            Reports
          </Link>
        )}
      </div>
      <ScopeLine query={scope} onShow={(query) => show({ query })} />
      <p className="mt-2 text-ink-2" role="status">
        {total === undefined
          ? '…'
          : `${countText(total, 'photo')}${scope === '' ? ' in the catalogue' : ''}${described === null || described === undefined || total === 0 ? '' : `, ${Math.floor((100 * described) / total)} % described`}`}
      </p>
      {scope === '' && <SinceLine />}
      <Failed query={figures} />
      <GivenCard />
      <WorkListCards scope={scope} total={total} />
      {figures.data && figures.data.time.bars.length > 0 && (
        <div className="mt-3">
          <TimeCard time={figures.data.time} />
        </div>
      )}
      <BackupCard />
      <FixityCard />
      {figures.data && <FigureGrid figures={figures.data} />}
    </div>
  );
}
