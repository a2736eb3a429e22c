// What the museum works on for others: a loan that is under way, and one that is over.

import { PROGRAM } from '@stellin/server/catalogue/viewer';
import { accountId, ARCHIVIST, apply, type Preparing } from './applying';

const LOAN = 'Loan to Northmere';
const PAST = 'Kites over Kessel';

/** Two projects with fields, a template and a rule of their own; the former one is closed. */
export async function setUpProjects({ services }: Preparing): Promise<void> {
  // The last step of it: what was done before is done.
  if ((await services.projects.list(PROGRAM)).some(({ closed }) => closed)) return;
  await apply(services, ARCHIVIST, {
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Loans',
    entries: [
      { target: 'title', required: true },
      { target: 'custom:Loan number', help: 'As it stands on the crate', required: true },
      { target: 'custom:Insurance value', kind: 'number', help: 'In crowns', required: true },
      { target: 'custom:Back by', kind: 'date' },
      { target: 'custom:Condition', kind: 'choice', choices: ['Good', 'Worn', 'Repaired', 'Fragile'] },
      { target: 'custom:Shown', kind: 'several', choices: ['Hanging', 'In a case', 'In the catalogue'] },
      { target: 'custom:Returned', kind: 'yesNo' },
    ],
  });
  await apply(services, ARCHIVIST, {
    kind: 'saveTemplate',
    templateId: null,
    name: 'Loan',
    note: 'Fills what comes into a loan',
    edits: [
      { target: 'creditLine', mode: 'fill', value: 'Saltmarsh Kite Museum' },
      { target: 'custom:Condition', mode: 'fill', value: 'Good' },
      { target: 'custom:Returned', mode: 'fill', value: 'no' },
    ],
  });
  await apply(services, ARCHIVIST, {
    kind: 'saveQualityRule',
    ruleId: null,
    name: 'Ready to lend',
    query: 'has:own',
    requires: ['caption', 'creditLine', 'copyrightNotice'],
  });
  const { fieldSets, templates, rules } = await services.describing.prepared(
    await services.rights.personOf(await accountId(services, ARCHIVIST)),
  );
  const idOf = (all: readonly { id: number; name: string }[], name: string) =>
    all.find((each) => each.name === name)?.id ?? null;
  const project = {
    kind: 'makeProject',
    fieldSetId: idOf(fieldSets, 'Loans'),
    templateId: idOf(templates, 'Loan'),
    ruleId: idOf(rules, 'Ready to lend'),
  } as const;
  const past = {
    name: PAST,
    note: 'Shown in the town hall of Kessel',
    colour: 'grey',
    starts: '2011-05',
    ends: '2011-09',
  } as const;
  const loan = {
    name: LOAN,
    note: 'Twelve kites and their pictures',
    colour: 'violet',
    starts: '2024-05',
    ends: '2024-11-30',
  } as const;
  for (const [form, query] of [
    [past, 'taken:<1975 rating:>=3'],
    [loan, 'term:"Single-line kites" rating:>=3'],
  ] as const) {
    await apply(services, ARCHIVIST, { ...project, ...form });
    const dossierId = (await services.dossiers.list(PROGRAM)).find(({ name }) => name === form.name)?.id ?? 0;
    await apply(services, ARCHIVIST, { kind: 'putInDossier', dossierId, selection: { query } });
    await apply(services, ARCHIVIST, { kind: 'makeDossier', name: 'For the catalogue', parentId: dossierId });
    await apply(services, ARCHIVIST, {
      kind: 'saveSearch',
      name: form === loan ? 'Dear and away' : 'Shown in Kessel',
      query: form === loan ? 'own:"Insurance value: >=500" own:"Returned: no"' : 'own:"Shown: hanging"',
      sort: 'taken',
      dossierId,
    });
  }
  await insure(services);
  const over = (await services.projects.list(PROGRAM)).find(({ name }) => name === PAST);
  if (over) await apply(services, ARCHIVIST, { kind: 'closeProject', projectId: over.id, closed: true });
}

/** What the kites of the loan are insured for, and until when they are away. */
async function insure(services: Preparing['services']): Promise<void> {
  const ids = await services.search.all.page(`dossier:"${LOAN}"`, 'taken', 0, 40);
  for (const [i, value] of [250, 480, 900, 1800].entries()) {
    const plus = ids.filter((_, place) => place % 4 === i);
    if (plus.length === 0) continue;
    await apply(services, ARCHIVIST, {
      kind: 'setFields',
      selection: { query: null, plus },
      edits: [
        { target: 'custom:Insurance value', mode: 'replace', value: String(value) },
        { target: 'custom:Loan number', mode: 'replace', value: `L 24/${i + 1}` },
        { target: 'custom:Back by', mode: 'replace', value: i === 3 ? '2024-09' : '2024-11-30' },
      ],
    });
  }
}
