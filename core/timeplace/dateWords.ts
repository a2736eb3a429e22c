// Dates that may be uncertain in words, as people say them, and back: `about 1932`, `summer 1951`, `between 1931 and 1938`.

import { edtfInterval } from './edtf';

const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
/** By their number in EDTF. */
const SEASONS: Readonly<Record<string, string>> = { '21': 'spring', '22': 'summer', '23': 'autumn', '24': 'winter' };

/** A date of EDTF in words; undefined when it is none. */
export function dateWords(edtf: string): string | undefined {
  if (!edtfInterval(edtf)) return undefined;
  const [start = '', end] = edtf.split('/');
  if (end === undefined) return simpleWords(start);
  if (start === '' || start === '..') return `until ${simpleWords(end)}`;
  if (end === '' || end === '..') return `since ${simpleWords(start)}`;
  return `between ${simpleWords(start)} and ${simpleWords(end)}`;
}

function simpleWords(text: string): string {
  const [, date = '', sign = ''] = /^(.*?)([?~%]?)$/.exec(text) ?? [];
  const said = certainWords(date);
  if (sign === '~') return `about ${said}`;
  return sign === '' ? said : `${sign === '%' ? 'about ' : ''}${said}, perhaps`;
}

function certainWords(date: string): string {
  const upper = date.toUpperCase();
  const [, century, decade, year, month, day, time] =
    /^(?:(\d{2})XX|(\d{3})X|(\d{4})(?:-(\d{2}|XX)(?:-(\d{2}|XX)(?:T(.+))?)?)?)$/.exec(upper) ?? [];
  if (century !== undefined) return `the ${ordinal(Number(century) + 1)} century`;
  if (decade !== undefined) return `the ${decade}0s`;
  const season = SEASONS[month ?? ''];
  if (season !== undefined) return `${season} ${year}`;
  const name = MONTHS[Number(month) - 1];
  if (name === undefined) return year ?? date;
  const days = day === undefined || day === 'XX' ? '' : `${Number(day)} `;
  return `${days}${name} ${year}${time === undefined ? '' : `, ${time.slice(0, 5)}`}`;
}

function ordinal(number: number): string {
  const ends: Readonly<Record<number, string>> = { 1: 'st', 2: 'nd', 3: 'rd' };
  const isTeen = number % 100 > 10 && number % 100 < 14;
  return `${number}${isTeen ? 'th' : (ends[number % 10] ?? 'th')}`;
}

/** The date of EDTF that words mean; undefined when they mean none. What is EDTF already stays. */
export function edtfOfWords(words: string): string | undefined {
  const text = words.trim().replace(/\s+/g, ' ');
  if (edtfInterval(text)) return text;
  const said = text.toLowerCase();
  const two = /^(?:between |from )?(.+?)(?: and | to | until | ?[–—] ?|(?<=\d)-(?=\d{4}$))(.+)$/.exec(said);
  if (two && (/^(?:between|from) /.test(said) || !/^(?:until|since|before|after)/.test(said))) {
    const [start, end] = [simpleOf(two[1] ?? ''), simpleOf(two[2] ?? '')];
    if (start && end) return checked(`${start}/${end}`);
  }
  const open = /^(until|before|up to|since|after|from) (.+)$/.exec(said);
  if (open) {
    const date = simpleOf(open[2] ?? '');
    if (!date) return undefined;
    return checked(/^(?:since|after|from)$/.test(open[1] ?? '') ? `${date}/..` : `../${date}`);
  }
  return simpleOf(said);
}

function simpleOf(said: string): string | undefined {
  const [, about, rest = '', perhaps] =
    /^(about |around |circa |ca\.? ?|c\. ?)?(.*?)((?:,? perhaps|\?)?)$/.exec(said) ?? [];
  const sign = about && perhaps ? '%' : about ? '~' : perhaps ? '?' : '';
  const date = certainOf(rest.replace(/^in |^the /, '').trim());
  return date === undefined ? undefined : checked(date + sign);
}

/** What is meant of one date; the first that fits. */
const FORMS: readonly { form: RegExp; date: (...parts: string[]) => string | undefined }[] = [
  { form: /^(\d{3}0)s$/, date: (decade = '') => `${decade.slice(0, 3)}X` },
  {
    form: /^(\d{1,2})(?:st|nd|rd|th) century$/,
    date: (century) => `${String(Number(century) - 1).padStart(2, '0')}XX`,
  },
  {
    form: /^(spring|summer|autumn|fall|winter)(?: of)? (\d{4})$/,
    date: (season = '', year) => `${year}-${seasonOf(season)}`,
  },
  { form: /^([a-z]{3,9})\.? (\d{4})$/, date: (month = '', year) => joined(year, monthOf(month)) },
  {
    form: /^(\d{1,2})\.? ([a-z]{3,9})\.? (\d{4})$/,
    date: (day, month = '', year) => joined(year, monthOf(month), day),
  },
  { form: /^([a-z]{3,9})\.? (\d{1,2}),? (\d{4})$/, date: (month = '', day, year) => joined(year, monthOf(month), day) },
  { form: /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/, date: (day, month, year) => joined(year, month, day) },
];

function certainOf(text: string): string | undefined {
  if (edtfInterval(text)) return text;
  for (const { form, date } of FORMS) {
    const found = form.exec(text);
    if (found) return date(...found.slice(1));
  }
  return undefined;
}

function joined(year = '', month?: string, day?: string): string | undefined {
  if (month === undefined) return undefined;
  return [year, month.padStart(2, '0'), ...(day === undefined ? [] : [day.padStart(2, '0')])].join('-');
}

/** The number of a month by its name or the beginning of it. */
function monthOf(name: string): string | undefined {
  const at = MONTHS.findIndex((month) => month.toLowerCase().startsWith(name));
  return at < 0 ? undefined : String(at + 1);
}

function seasonOf(name: string): string {
  const wanted = name === 'fall' ? 'autumn' : name;
  return Object.entries(SEASONS).find(([, season]) => season === wanted)?.[0] ?? '';
}

function checked(date: string): string | undefined {
  return edtfInterval(date) ? date : undefined;
}
