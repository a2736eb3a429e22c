// What changes touch, put together from what each subject says of its own.

import { accessionObjects } from './accessions/ledger';
import { bundleAspects } from './bundles/ledger';
import { deliveringObjects } from './delivering/ledger';
import { describingAspects, describingObjects } from './describing/ledger';
import { dossierAspects, dossierObjects } from './dossiers/ledger';
import { doubleObjects } from './doubles/ledger';
import { filingAspects, filingObjects } from './filing/ledger';
import { fixityAspects } from './fixity/ledger';
import type { LedgerKinds } from './ledger/kinds';
import { markAspects, markObjects } from './marks/ledger';
import { peopleAspects, peopleObjects } from './people/ledger';
import { photoAspects } from './photos/ledger';
import { placeObjects } from './places/ledger';
import { planAspects, planObjects } from './plans/ledger';
import { projectObjects } from './projects/ledger';
import { searchObjects } from './search/ledger';
import { vocabularyAspects, vocabularyObjects } from './vocabulary/ledger';
import { conflictAspects } from './writeback/ledger';

export const LEDGER_KINDS = {
  aspects: {
    ...vocabularyAspects,
    ...markAspects,
    ...filingAspects,
    ...fixityAspects,
    ...bundleAspects,
    ...photoAspects,
    ...describingAspects,
    ...conflictAspects,
    ...dossierAspects,
    ...peopleAspects,
    ...planAspects,
  },
  objects: {
    ...filingObjects,
    ...vocabularyObjects,
    ...markObjects,
    ...doubleObjects,
    ...dossierObjects,
    ...peopleObjects,
    ...deliveringObjects,
    ...describingObjects,
    ...placeObjects,
    ...planObjects,
    ...projectObjects,
    ...searchObjects,
    ...accessionObjects,
  },
  names: {
    account: { id: 'int', column: 'display_name' },
    drive: { id: 'uuid', column: 'label' },
    incoming_keyword: { id: 'int', column: 'keyword' },
    photo: { id: 'int', column: 'name' },
  },
} as const satisfies LedgerKinds;

export type AspectName = keyof (typeof LEDGER_KINDS)['aspects'];
export type ObjectName = keyof (typeof LEDGER_KINDS)['objects'];
