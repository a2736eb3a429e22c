// What is typed to make a view link, and what is asked for by it.

import { z } from 'zod';
import { LOOK_IDS } from '@stellin/core/delivering/gallery';
import { originOf } from '@stellin/core/sharing/embedding';
import { SORTS, type Sort } from '@stellin/core/search/sorts';
import type { Selection } from '@stellin/contract/photos';
import { day, text } from '@stellin/contract/route';
import { linkRequest, linkSettings, type LinkRequest } from '@stellin/contract/sharing';

const { title, words, watermark } = linkSettings.shape;
const WHOLE_NUMBER_OR_NOTHING = /^([1-9]\d{0,5})?$/;
const NUMBER_TO_THOUSANDS_OR_NOTHING = /^([1-9]\d{0,2})?$/;
/** What is typed: an empty text is no limit. */
export const linkSchema = z.object({
  title: title.unwrap(),
  words: words.unwrap(),
  forWhom: linkRequest.shape.forWhom.unwrap(),
  source: z.enum(['fixed', 'following']),
  password: text.max(200),
  endsOn: z.union([z.literal(''), day]),
  mostViews: text.regex(WHOLE_NUMBER_OR_NOTHING, 'A number from 1, or nothing.'),
  tellAfter: text.regex(NUMBER_TO_THOUSANDS_OR_NOTHING, 'A number from 1 to 999, or nothing.'),
  look: z.enum(LOOK_IDS),
  sort: z.enum(SORTS),
  longEdge: z.number().int().min(400, 'From 400 to 2048.').max(2048, 'From 400 to 2048.'),
  watermark: watermark.unwrap(),
  people: z.boolean(),
  terms: z.boolean(),
  downloads: z.boolean(),
  answers: z.boolean(),
  map: z.boolean(),
  iiif: z.boolean(),
  embedOn: text.refine(
    (typed) => originsIn(typed).every((each) => originOf(each) !== undefined),
    'Addresses like https://museum.example, and nothing behind them.',
  ),
  columns: linkSettings.shape.columns.unwrap(),
});
export type LinkValues = z.infer<typeof linkSchema>;

const originsIn = (typed: string): string[] => typed.split(/[\s,]+/).filter(Boolean);

export const NEW_LINK: LinkValues = {
  ...{
    title: 'Pictures',
    words: '',
    forWhom: '',
    source: 'fixed',
    password: '',
    endsOn: '',
    mostViews: '',
    tellAfter: '',
    look: 'paper',
  },
  ...{ longEdge: 1600, watermark: '', people: false, terms: false, downloads: false, answers: false, columns: [] },
  ...{ map: false, iiif: false, embedOn: '', sort: 'taken' },
};

/** What is asked for: the photos that are meant, and what was typed. */
export function requestOf(selection: Selection, typed: LinkValues): LinkRequest {
  const { forWhom, source, sort, password, endsOn, mostViews, tellAfter, embedOn, ...settings } = typed;
  const tells = source === 'following' && tellAfter !== '';
  return {
    source:
      source === 'following' ? { kind: source, query: selection.query ?? '', sort } : { kind: source, selection, sort },
    settings: { ...settings, embedOn: originsIn(embedOn), tellAfter: tells ? Number(tellAfter) : null },
    forWhom,
    password: password === '' ? null : password,
    endsOn: endsOn === '' ? null : endsOn,
    mostViews: mostViews === '' ? null : Number(mostViews),
  };
}

/** The photos that a link is made for, in their order. */
export interface MeantPhotos {
  selection: Selection;
  sort: Sort;
}
