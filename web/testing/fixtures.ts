// What the server might answer, of the made-up Saltmarsh Kite Museum.

import type { Dossier } from '@stellin/contract/dossiers';
import type { DoublePhoto } from '@stellin/contract/doubles';
import type { Drive, Folder } from '@stellin/contract/drives';
import type { FilingPlan } from '@stellin/contract/filing';
import type { Job } from '@stellin/contract/jobs';
import type { Face, Person } from '@stellin/contract/people';
import type { Photo, PhotoDetails } from '@stellin/contract/photos';
import type { FoundTerm, Impact, TermCard } from '@stellin/contract/vocabulary';

export const VAULT = '6f1c1f2e-0c53-4a8e-9c55-2f7f1b1d0a01';

/** An entry of the ledger, as a change is answered. */
export const ENTRY = { id: 1, at: '', by: '', title: 'Done', photos: 1, state: 'done', objectId: 8 };
export const DONE = { entry: ENTRY, job: null };

export function photoOf(id: number, said: Partial<Photo> = {}): Photo {
  return {
    id,
    name: `SKM_${id}.jpg`,
    kind: 'jpeg',
    driveId: VAULT,
    folderId: 1,
    away: false,
    missing: false,
    damaged: false,
    width: 600,
    height: 400,
    duration: null,
    takenAt: '2019-06-15T10:00:00',
    rating: 0,
    mark: '',
    bundle: null,
    private: false,
    setAside: null,
    writeState: null,
    described: null,
    parts: { terms: false, caption: false, people: false, location: false },
    placeholder: null,
    previewVersion: 1,
    ...said,
  };
}

/** All that is known of a photo. */
export function detailsOf(id: number, said: Partial<PhotoDetails> = {}): PhotoDetails {
  return {
    ...photoOf(id),
    ...{
      driveLabel: 'Vault 1',
      folderPath: '2019',
      path: '/drives/vault-1/2019/a.jpg',
      sizeBytes: 2_000_000,
      facts: {},
      fields: {},
    },
    ...{ keywords: [], termIds: [], issues: [], disagreements: [], dossiers: [], doubles: [], takenIn: null },
    fixity: { state: 'unread', provenAt: null, sha256: null, problem: null },
    ...said,
  };
}

export function doubleOf(id: number, said: Partial<DoublePhoto> = {}): DoublePhoto {
  return { ...photoOf(id), driveLabel: 'Vault 1', folderPath: '2019', sizeBytes: 2_000_000, terms: 0, ...said };
}

export function driveOf(said: Partial<Drive> = {}): Drive {
  return {
    key: VAULT,
    id: VAULT,
    label: 'Vault 1',
    state: 'attached',
    mountPoint: '/media/vault-1',
    copyOf: null,
    photos: 12,
    photoBytes: 24_000_000,
    missing: 0,
    capacityBytes: 1_000_000_000,
    freeBytes: 400_000_000,
    readOnly: false,
    note: '',
    readText: false,
    browseAway: false,
    lastSeen: null,
    lastChecked: null,
    ...said,
  };
}

export const FOLDERS: Folder[] = [
  { id: 1, driveId: VAULT, parentId: null, name: '', path: '', photos: 0, photosWithin: 12, colour: '', note: '' },
  { id: 2, driveId: VAULT, parentId: 1, name: '2019', path: '2019', photos: 8, photosWithin: 12, colour: '', note: '' },
  {
    id: 3,
    driveId: VAULT,
    parentId: 2,
    name: 'Festival',
    path: '2019/Festival',
    photos: 4,
    photosWithin: 4,
    colour: '',
    note: '',
  },
];

export function dossierOf(id: number, name: string, said: Partial<Dossier> = {}): Dossier {
  return {
    id,
    parentId: null,
    name,
    path: name,
    query: `dossier:${name}`,
    note: '',
    colour: '',
    photos: 3,
    cover: null,
    pinned: false,
    ...said,
  };
}

export function planOf(said: Partial<FilingPlan> = {}): FilingPlan {
  return {
    photos: 2,
    bytes: 4_000_000,
    away: 0,
    missing: 0,
    readOnly: 0,
    busy: 0,
    taken: 0,
    examples: [],
    problem: null,
    ...said,
  };
}

export function faceOf(id: number, said: Partial<Face> = {}): Face {
  return {
    id,
    photoId: 100 + id,
    photoName: `SKM_${100 + id}.jpg`,
    previewVersion: 1,
    box: { left: 0.1, top: 0.1, width: 0.2, height: 0.2 },
    takenAt: '2019-06-15T10:00:00',
    state: 'open',
    person: null,
    drawn: false,
    quality: 0.9,
    smile: 0.5,
    eyesOpen: 0.9,
    ...said,
  };
}

/** The card of a term that 24 photos have. */
export function cardOf(id: number, label: string, said: Partial<TermCard> = {}): TermCard {
  return {
    id,
    parentId: 2,
    label,
    otherLabels: [],
    scopeNote: '',
    definition: '',
    notation: '',
    uri: `urn:saltmarsh:${id}`,
    colour: '',
    examplePhoto: null,
    byHand: false,
    writeSelf: true,
    writeBroader: true,
    writeOthers: 'none',
    writeLanguage: '',
    vocabulary: { id: 1, name: 'Museum thesaurus', language: 'en' },
    heading: false,
    status: 'accepted',
    proposedBy: null,
    deprecated: false,
    replacedBy: null,
    path: [{ id: 2, label: 'Kites', path: [] }],
    broader: [],
    related: [],
    narrower: 0,
    photos: 24,
    photosWithin: 24,
    lastGivenAt: null,
    keywords: [label],
    example: null,
    madeBy: null,
    madeAt: null,
    query: `term:${label}`,
    ...said,
  };
}

/** A term below “Kites”, as looking for it finds it. */
export function foundTermOf(id: number, label: string): FoundTerm {
  return {
    id,
    parentId: 2,
    vocabularyId: null,
    label,
    also: '',
    heading: false,
    proposed: false,
    deprecated: false,
    colour: '',
    narrower: 0,
    elsewhere: false,
    photos: 3,
    photosWithin: 3,
    path: ['Kites'],
    found: label,
    from: 0,
    to: 4,
  };
}

/** What a change to terms touches. */
export function impactOf(title: string, said: Partial<Impact> = {}): Impact {
  return {
    title,
    terms: 1,
    photos: 0,
    both: 0,
    within: 0,
    drives: [],
    searches: [],
    pads: [],
    keptLabels: [],
    query: null,
    ...said,
  };
}

/** A job that waits to be begun. */
export const JOB: Job = {
  accountId: 1,
  id: '6f1c1f2e-0c53-4a8e-9c55-2f7f1b1d0b01',
  kind: 'takeIn',
  title: 'Take in Card 1',
  state: 'queued',
  done: 0,
  total: 0,
  current: '',
  failures: 0,
  result: {},
  createdAt: '2026-05-01T10:00:00Z',
  startedAt: null,
  finishedAt: null,
  secondsActive: 0,
};

export function personOf(id: number, name: string, said: Partial<Person> = {}): Person {
  return {
    id,
    name,
    otherNames: [],
    note: '',
    born: '',
    died: '',
    private: false,
    detailed: false,
    termId: null,
    photos: 0,
    faces: 0,
    termLabel: null,
    coverFace: null,
    ...said,
  };
}
