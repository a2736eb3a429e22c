// Reports: what they are about is chosen in one line; below stand their tables, each number a link to what it counts.

import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Report, ReportKind } from '@stellin/core/reports/tables';
import { intakeRoutes } from '@stellin/contract/intake';
import { REPORT_FORMATS, reportRoutes, type ReportPreset, type ReportSettings } from '@stellin/contract/reports';
import { useProjects } from '../dossiers/queries';
import { useMayCall } from '../foundation/session';
import { useAccessions } from '../intake/queries';
import { Button } from '../parts/Button';
import { shortDayText, today } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { TextField } from '../parts/Field';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed, Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { KeepDialog } from './KeepDialog';
import { PERIODS, periodOf, type PeriodName } from './periods';
import { reportUrl, useRemoveReport, useReport, useReportPresets } from './queries';

const KINDS: Readonly<Record<ReportKind, string>> = {
  period: 'What came in, was described and delivered',
  project: 'A project',
  accession: 'An accession',
  register: 'Accession register',
  inventory: 'Inventory of drives',
};
const WITH_PERIOD: ReadonlySet<ReportKind> = new Set<ReportKind>(['period', 'register']);
/** In a choice 0 is none. */
const NONE = 0;

export function ReportsScreen() {
  const [settings, setSettings] = useState<ReportSettings>({
    ...{ kind: 'period', projectId: null, accessionId: null },
    ...periodOf('month', today()),
  });
  const [period, setPeriod] = useState<PeriodName | 'own'>('month');
  const [keeping, setKeeping] = useState<ReportPreset | 'new' | null>(null);
  const change = (part: Partial<ReportSettings>) => setSettings((before) => ({ ...before, ...part }));
  const projects = useProjects().data ?? [];
  const mayIntake = useMayCall(intakeRoutes.listAccessions);
  const mayKeep = useMayCall(reportRoutes.keepReport);
  const { kind, from, until, projectId, accessionId } = settings;
  const isReady = (kind !== 'project' || projectId !== null) && (kind !== 'accession' || accessionId !== null);
  const report = useReport(settings, isReady);
  const open = (preset: ReportPreset) => {
    setSettings(preset.settings);
    setPeriod('own');
  };
  return (
    <div className="h-full overflow-y-auto p-6">
      <p data-not-printed>
        <Link to="/holdings" className="inline-flex items-center gap-1 text-slate hover:underline">
          <ArrowLeft size={14} aria-hidden /> Holdings
        </Link>
      </p>
      <h1 className="font-title text-[22px] font-semibold">Reports</h1>
      <div data-not-printed className="mt-2 flex flex-wrap items-end gap-2">
        <Select
          label="What it is about"
          className="w-80"
          value={kind}
          onChange={(chosen) => change({ kind: chosen })}
          options={(Object.keys(KINDS) as ReportKind[])
            .filter((each) => each !== 'accession' || mayIntake)
            .map((value) => ({ value, label: KINDS[value] }))}
        />
        {WITH_PERIOD.has(kind) && (
          <>
            <Select
              label="Period"
              className="w-40"
              value={period}
              onChange={(chosen) => {
                setPeriod(chosen);
                if (chosen !== 'own') change(periodOf(chosen, today()));
              }}
              options={[
                ...(Object.keys(PERIODS) as PeriodName[]).map((value) => ({ value, label: PERIODS[value] })),
                { value: 'own', label: 'Own days' },
              ]}
            />
            {period === 'own' && (
              <>
                <TextField
                  label="First day"
                  hideLabel
                  type="date"
                  value={from}
                  onChange={(event) => change({ from: event.target.value })}
                />
                <TextField
                  label="Last day"
                  hideLabel
                  type="date"
                  value={until}
                  onChange={(event) => change({ until: event.target.value })}
                />
              </>
            )}
          </>
        )}
        {kind === 'project' && (
          <Select
            label="Project"
            className="w-64"
            value={projectId ?? NONE}
            onChange={(id) => change({ projectId: id || null })}
            options={[
              { value: NONE, label: 'Choose a project', disabled: true },
              ...projects.map(({ id, name }) => ({ value: id, label: name })),
            ]}
          />
        )}
        {kind === 'accession' && <AccessionChoice id={accessionId} onChoose={(id) => change({ accessionId: id })} />}
        <span className="ml-auto flex items-center gap-2">
          {isReady &&
            REPORT_FORMATS.map((format) => (
              <a
                key={format}
                href={reportUrl(format, settings)}
                download
                className="inline-flex h-8 items-center rounded border border-line bg-card px-3 hover:border-ink-3"
              >
                {format.toUpperCase()}
              </a>
            ))}
          <Button disabled={!isReady} onClick={() => window.print()}>
            Print
          </Button>
          {mayKeep && (
            <Button look="primary" disabled={!isReady} onClick={() => setKeeping('new')}>
              Keep …
            </Button>
          )}
        </span>
      </div>
      <Kept onOpen={open} onChange={mayKeep ? setKeeping : undefined} />
      {isReady && (
        <Queried query={report} pending={<p className="mt-6 text-ink-2">The report is being made …</p>}>
          {(made) => <Shown report={made} />}
        </Queried>
      )}
      {keeping && (
        <KeepDialog
          preset={keeping === 'new' ? null : keeping}
          settings={keeping === 'new' ? settings : keeping.settings}
          onClose={() => setKeeping(null)}
        />
      )}
    </div>
  );
}

function AccessionChoice({ id, onChoose }: { id: number | null; onChoose: (id: number | null) => void }) {
  const accessions = useAccessions().data ?? [];
  return (
    <Select
      label="Accession"
      className="w-72"
      value={id ?? NONE}
      onChange={(chosen) => onChoose(chosen || null)}
      options={[
        { value: NONE, label: 'Choose an accession', disabled: true },
        ...accessions.map(({ id: value, number, driveLabel, startedAt }) => ({
          value,
          label: `${number || `No. ${value}`}: ${driveLabel}, ${shortDayText(startedAt)}`,
        })),
      ]}
    />
  );
}

interface KeptProps {
  onOpen: (preset: ReportPreset) => void;
  onChange: ((preset: ReportPreset) => void) | undefined;
}

/** The reports that are kept. */
function Kept({ onOpen, onChange }: KeptProps) {
  const query = useReportPresets();
  const remove = useRemoveReport();
  const presets = query.data ?? [];
  return (
    <>
      <Failed query={query} />
      {presets.length > 0 && (
        <ul data-not-printed aria-label="Kept reports" className="mt-3 flex flex-wrap gap-2">
          {presets.map((preset) => (
            <li key={preset.id} className="flex items-center gap-1 rounded border border-line bg-card pr-1">
              <button type="button" className="px-2.5 py-1 hover:underline" onClick={() => onOpen(preset)}>
                {preset.name}
                {preset.monthlyTo && (
                  <span className="text-[12px] text-ink-2"> · every month to {preset.monthlyTo}</span>
                )}
              </button>
              {onChange && (
                <Menu label={`Change ${preset.name}`}>
                  <MenuItem label="Name and mail …" onSelect={() => onChange(preset)} />
                  <MenuItem label="Keep it no longer" onSelect={() => remove.mutate(preset.id)} />
                </Menu>
              )}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Shown({ report: { title, about, madeAt, sections } }: { report: Report }) {
  return (
    <article aria-label={title} className="mt-5 max-w-5xl">
      <h2 className="font-title text-[19px] font-semibold">{about}</h2>
      <p className="figures text-[12px] text-ink-2">as of {madeAt}</p>
      {sections.map((section) => (
        <section key={section.title} className="mt-4">
          <h3 className="font-semibold">{section.title}</h3>
          {section.rows.length === 0 ? (
            <p className="mt-1 text-ink-2">{section.empty}</p>
          ) : (
            <div className="mt-1 w-fit max-w-full min-w-80 overflow-x-auto rounded border border-line bg-card">
              <table className="w-full text-[13px]">
                <thead>
                  <tr className="text-left text-[12px] text-ink-2">
                    {section.columns.map(({ label, isNumber }, i) => (
                      <th
                        key={i}
                        scope="col"
                        className={`px-3 py-1 font-normal whitespace-nowrap ${isNumber ? 'text-right' : ''}`}
                      >
                        {label || <span className="sr-only">What</span>}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {section.rows.map((cells, at) => (
                    <tr key={at} className="border-t border-line">
                      {cells.map(({ text, query }, i) => (
                        <td
                          key={i}
                          className={`px-3 py-1 align-top ${section.columns[i]?.isNumber ? 'figures text-right whitespace-nowrap' : ''}`}
                        >
                          {query === undefined ? (
                            text
                          ) : (
                            <Link to={deskLink(query)} className="text-slate hover:underline">
                              {text}
                            </Link>
                          )}
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </section>
      ))}
    </article>
  );
}
