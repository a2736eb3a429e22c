// Every kind of job, and the sentence each ends with, made of the counts of its result.

import { sizeText } from './sizeText';
import { countText, numberText } from './wording';

type Result = Readonly<Record<string, number | string | null>>;
type Sentence = (result: Result) => string;

const counted = (result: Result, name: string) => Number(result[name] ?? 0);

/** Parts of a sentence, each of a count: those of zero are left out but for the first, which always stands. */
function parts(...of: readonly [name: string, text: (count: number) => string][]): Sentence {
  return (result) =>
    of
      .flatMap(([name, text], i) => {
        const count = counted(result, name);
        return count > 0 || i === 0 ? [text(count)] : [];
      })
      .join(', ');
}

const plain =
  (what: string) =>
  (count: number): string =>
    `${numberText(count)} ${what}`;
const many =
  (one: string, what: string) =>
  (count: number): string =>
    `${countText(count, one)} ${what}`;

const TAKEN_IN: readonly [name: string, text: (count: number) => string][] = [
  ['new', (count) => countText(count, 'new photo')],
  ['changed', plain('changed')],
  ['moved', plain('moved')],
  ['returned', plain('there again')],
  ['missing', plain('not found')],
  ['damaged', plain('damaged')],
];

export const RESULT_SENTENCES = {
  index: parts(...TAKEN_IN),
  largePictures: parts(['made', many('large picture', 'made')]),
  linkPictures: parts(['made', many('picture', 'ready to be viewed')]),
  mediaParts: parts([
    'made',
    (count) => countText(count, 'film or sound looked through', 'films and sounds looked through'),
  ]),
  pictureText: parts(['withText', (count) => `text found in ${countText(count, 'picture')}`]),
  looks: parts(['measured', many('picture', 'measured')]),
  playable: parts(['made', many('copy', 'made that plays')]),
  copyIn: parts(
    ['copied', many('file', 'copied')],
    ['known', plain('known before')],
    ['failed', plain('failed')],
    ['unlisted', (count) => `${countText(count, 'folder')} could not be read`],
    ...TAKEN_IN,
  ),
  proveSource: parts(['proven', many('file', 'proven')], ['unproven', plain('without proof')]),
  emptySource: parts(['deleted', many('file', 'deleted')], ['kept', plain('left where they are')]),
  writeBack: parts(
    ['written', many('file', 'written')],
    ['merged', plain('merged with what files say')],
    ['conflict', plain('in conflict')],
    ['failed', plain('failed')],
  ),
  takeBack: parts(['takenBack', many('file', 'as it was before')], ['failed', plain('failed')]),
  filing: (result) =>
    ['moved', 'copied', 'failed']
      .flatMap((name) => (counted(result, name) > 0 ? [`${numberText(counted(result, name))} ${name}`] : []))
      .join(', ') || 'nothing was moved',
  emptyTrash: parts(['deleted', many('file', 'deleted for good')]),
  change: (result) => `${String(result['title'] ?? '')}: ${countText(counted(result, 'photos'), 'photo')} changed`,
  faces: parts(['faces', (count) => `${countText(count, 'face')} found`]),
  fixity: parts(
    ['read', many('file', 'read')],
    ['damaged', plain('damaged')],
    ['others', plain('changed by other programs')],
    ['missing', plain('not found')],
    ['unreadable', plain('could not be read')],
    ['left', plain('left for the next time')],
  ),
  copyBack: parts(['putBack', many('file', 'put back')], ['failed', plain('failed')]),
  deliver: parts(['written', many('file', 'written')], ['skipped', plain('left out')], ['failed', plain('failed')]),
  takeReturned: parts(['taken', many('file', 'taken in')], ['failed', plain('failed')]),
  backup: (result) => `${sizeText(counted(result, 'bytes'))} in ${String(result['path'] ?? '')}`,
  checkBackup: parts(['tables', (count) => `${countText(count, 'table')} restored, each as it was`]),
  prepareDemo: () => 'all of the demo is there',
} as const satisfies Record<string, Sentence>;

export type JobKindName = keyof typeof RESULT_SENTENCES;

/** What came out of a job that is done, in words; of a kind that is no more, nothing. */
export function resultSentence({ kind, result }: { kind: string; result: Result }): string {
  return (RESULT_SENTENCES as Partial<Record<string, Sentence>>)[kind]?.(result) ?? '';
}
