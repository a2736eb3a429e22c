// Tables in: a table from elsewhere is brought in, its columns are told what they are for, its rows find their photos, and what
// would change is looked at before it is taken in.

import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { IncomingSettings, IncomingTable } from '@stellin/contract/incomingTables';
import { countText, numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { Tab } from '../parts/Tab';
import { dateTimeText } from '../parts/dateTimeText';
import { Menu, MenuItem } from '../parts/Menu';
import { Queried } from '../parts/Queried';
import { useFilePicker } from '../parts/useFilePicker';
import { ChangesTab } from './ChangesTab';
import { ColumnsTab } from './ColumnsTab';
import { useBringIn, useForget, useIncomingTable, useIncomingTables, useSettings } from './queries';
import { RowsTab } from './RowsTab';
import { Summary } from './Summary';
import { WordsTab } from './WordsTab';

const ACCEPTED = '.csv,.tsv,.tab,.txt,.xlsx,.jsonl,.ndjson';

export function IncomingTablesScreen() {
  const { id } = useParams();
  const chosen = id !== undefined && /^\d{1,9}$/.test(id) ? Number(id) : null;
  const navigate = useNavigate();
  const bringIn = useBringIn();
  const [field, openFiles] = useFilePicker({
    label: 'File of a table',
    accept: ACCEPTED,
    onFiles: ([file]) => {
      if (file) bringIn.mutate(file, { onSuccess: (made) => void navigate(`/deliver/tables/${made}`) });
    },
  });
  return (
    <div className="grid h-full grid-cols-[230px_minmax(0,1fr)] max-lg:grid-cols-[190px_minmax(0,1fr)] 2xl:grid-cols-[270px_minmax(0,1fr)]">
      <aside aria-label="Tables" className="overflow-y-auto border-r border-line bg-sheet pb-4">
        <div className="p-3">
          <Button
            look={chosen === null ? 'primary' : 'plain'}
            className="w-full justify-center"
            disabled={bringIn.isPending}
            onClick={openFiles}
          >
            {bringIn.isPending ? 'It is being read …' : 'Bring a table in …'}
          </Button>
          {field}
        </div>
        <Tables chosen={chosen} />
      </aside>
      {chosen === null ? <Introduction /> : <Chosen key={chosen} id={chosen} />}
    </div>
  );
}

function Tables({ chosen }: { chosen: number | null }) {
  const tables = useIncomingTables();
  const navigate = useNavigate();
  const forget = useForget();
  return (
    <Queried query={tables}>
      {(all) => (
        <ul>
          {all.map(({ id, name, at, rows, taken }) => (
            <li key={id} className={`flex items-start pr-1.5 ${id === chosen ? 'bg-spruce-pale' : 'hover:bg-ground'}`}>
              <button
                type="button"
                aria-pressed={id === chosen}
                className="min-w-0 flex-1 py-1.5 pl-3 text-left"
                onClick={() => void navigate(`/deliver/tables/${id}`)}
              >
                <span className="block truncate" title={name}>
                  {name}
                </span>
                <span className="figures block text-[12px] text-ink-2">
                  {dateTimeText(at)} · {taken && !taken.undone ? 'taken in' : countText(rows, 'row')}
                </span>
              </button>
              <Menu label={`What to do with ${name}`}>
                <MenuItem
                  label="Forget the table"
                  onSelect={() =>
                    forget.mutate(id, {
                      onSuccess: () => id === chosen && void navigate('/deliver/tables', { replace: true }),
                    })
                  }
                />
              </Menu>
            </li>
          ))}
        </ul>
      )}
    </Queried>
  );
}

function Introduction() {
  return (
    <div className="bg-card p-6">
      <h1 className="mb-3 font-title text-[19px] font-semibold">Tables in</h1>
      <div className="max-w-2xl space-y-2">
        <p>
          A table (CSV, TSV, XLSX or JSON Lines) says something of many photos: captions that somebody wrote in a
          spreadsheet, a list that came with a collection, a table that left here and was corrected.
        </p>
        <p>
          Its rows find their photos by number, path, file name, checksum or any field. You say what each column is for,
          look at what would change, and take it in: as one step that can be undone. Rows that met no photo can be saved
          as a table again.
        </p>
      </div>
    </div>
  );
}

function Chosen({ id }: { id: number }) {
  const table = useIncomingTable(id);
  return (
    <Queried query={table} pending={<p className="bg-card p-6 text-ink-2">The table is being read …</p>}>
      {(data) => <TableWork table={data} />}
    </Queried>
  );
}

const TABS = ['columns', 'changes', 'words', 'rows'] as const;
const TAB_LABELS: Readonly<Record<(typeof TABS)[number], string>> = {
  columns: 'Columns',
  changes: 'Before and after',
  words: 'Words',
  rows: 'Rows',
};

function TableWork({ table }: { table: IncomingTable }) {
  const { id, name, counts } = table;
  const [tab, setTab] = useState<(typeof TABS)[number]>('columns');
  const settings = useSettings(id);
  const set = (part: Partial<IncomingSettings>) => settings.mutate({ ...table.settings, ...part });
  // What was chosen a moment ago is shown while the rows are matched anew.
  const shown = settings.isPending && settings.variables ? { ...table, settings: settings.variables } : table;
  const left = counts.none + counts.several + counts.partly;
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_270px] 2xl:grid-cols-[minmax(0,1fr)_340px]">
      <Tabs.Root
        className="flex min-h-0 flex-col bg-card"
        value={tab}
        onValueChange={(value) => setTab(TABS.find((each) => each === value) ?? 'columns')}
      >
        <div className="flex items-end gap-4 border-b border-line bg-sheet px-3 pt-2">
          <h1 className="min-w-0 truncate pb-1.5 font-title text-[17px] font-semibold" title={name}>
            {name}
          </h1>
          <Tabs.List aria-label="What is shown" className="flex shrink-0 gap-1">
            {TABS.map((each) => (
              <Tab key={each} value={each}>
                {TAB_LABELS[each]}
                {each === 'rows' && left > 0 && <span className="figures ml-1.5 text-amber">{numberText(left)}</span>}
              </Tab>
            ))}
          </Tabs.List>
        </div>
        {TABS.map((each) => (
          <Tabs.Content key={each} value={each} className="min-h-0 flex-1 overflow-y-auto">
            {each === 'columns' && <ColumnsTab table={shown} onChange={(uses) => set({ uses })} />}
            {each === 'changes' && <ChangesTab table={table} />}
            {each === 'words' && <WordsTab table={shown} onChange={(words) => set({ words })} />}
            {each === 'rows' && <RowsTab table={table} />}
          </Tabs.Content>
        ))}
      </Tabs.Root>
      <Summary table={shown} onChange={set} busy={settings.isPending} />
    </div>
  );
}
