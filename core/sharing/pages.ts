// The pages behind a view link. They work without scripts, one adds keys and lets a slide show go on; all texts come from outside and are escaped. Addresses are below that of the link, so
// that nothing in them tells of anything else.

import { galleryStyle, type Look } from '../delivering/gallery';
import { spotsOf, type Position } from '../delivering/galleryMap';
import { mapDrawing, type MapGround } from '../delivering/mapDrawing';
import { escaped } from '../text/html';
import { ANSWER_KINDS, ANSWERS, MAX_ANSWER, MAX_SENDER } from './answers';

/** A picture as its page shows it. */
export interface SharedPicture {
  /** In addresses; means nothing to anybody else. */
  key: string;
  alt: string;
  caption: string;
  lines: readonly { label: string; text: string }[];
  /** As it is to be seen, in pixels; null where that is not known. */
  width: number | null;
  height: number | null;
  /** Where it was taken; null where that is not known, or not shown. */
  position: Position | null;
}

/** What belongs to the head of a page besides what all have: addresses for programs. */
export interface SharedHead {
  /** Tells pages of others how to show it (oEmbed). */
  oEmbed: string | null;
  /** For viewers of other houses (IIIF). */
  manifest: string | null;
}

export interface SharedSheet {
  title: string;
  words: string;
  /** The address of the link, without an end. */
  base: string;
  pictures: readonly SharedPicture[];
  /** How many there are on all pages. */
  total: number;
  page: number;
  pages: number;
  /** Whether there is a map. */
  map: boolean;
  head: SharedHead;
}

export interface SharedView {
  title: string;
  base: string;
  picture: SharedPicture;
  /** From 1. */
  number: number;
  total: number;
  before: string | null;
  after: string | null;
  /** The page of the sheet that it stands on. */
  sheetPage: number;
  downloads: boolean;
  /** A slide show: seconds until the next picture. */
  seconds: number | null;
  /** Answers are wanted: who sends them, as they said before, and whether one was just sent. Null: none are. */
  answers: { sender: string; sent: boolean; problem: string } | null;
}

export const SECONDS_A_SLIDE = 8;

/** Pictures, page by page. */
export function sheetPage({ title, words, base, pictures, total, page, pages, map, head }: SharedSheet): string {
  const [first] = pictures;
  const at = (to: number) => (to === 1 ? base : `${base}?page=${to}`);
  const body = [
    `<h1>${escaped(title)}</h1>`,
    words && page === 1 ? `<p class="words">${escaped(words).replaceAll('\n', '<br>')}</p>` : '',
    `<p>${total === 1 ? '1 picture' : `${total} pictures`}${first ? ` · <a href="${viewPath(base, first.key, true)}">Slide show</a>` : ''}${map ? ` · <a href="${base}/map">On a map</a>` : ''}</p>`,
    wallOf(base, pictures),
    pages > 1
      ? `<nav class="pager" aria-label="Pages">${page > 1 ? `<a rel="prev" href="${at(page - 1)}">Before</a>` : ''}<span>Page ${page} of ${pages}</span>${page < pages ? `<a rel="next" href="${at(page + 1)}">Next</a>` : ''}</nav>`
      : '',
    head.manifest === null ? '' : `<p class="given"><a href="${head.manifest}">IIIF manifest</a></p>`,
  ];
  return pageOf(page > 1 ? `${title}, page ${page}` : title, base, body, { head });
}

function wallOf(base: string, pictures: readonly SharedPicture[]): string {
  const tiles = pictures.map(
    ({ key, alt }) =>
      `<li><a href="${viewPath(base, key)}"><img src="${base}/${key}/small.jpg" alt="${escaped(alt)}" loading="lazy"></a></li>`,
  );
  return `<ul class="wall">${tiles.join('')}</ul>`;
}

export interface SharedMap {
  title: string;
  base: string;
  pictures: readonly SharedPicture[];
  /** Null: of no picture it is known where it was taken. */
  ground: MapGround | null;
  /** The key of a picture: those at its spot are shown. */
  spot: string | null;
}

/** Where pictures were taken, or those of one spot. */
export function sharedMapPage({ title, base, pictures, ground, spot }: SharedMap): string {
  const here =
    ground && spot !== null
      ? spotsOf(pictures, ground.frame).find(({ photos }) => photos.some(({ key }) => key === spot))?.photos
      : undefined;
  const missing = pictures.filter(({ position }) => position === null).length;
  const all = `<p><a rel="up" href="${here ? `${base}/map` : base}">${here ? 'The map' : `All of “${escaped(title)}”`}</a></p>`;
  if (here)
    return pageOf(`One spot – ${title}`, base, [
      `<h1>${here.length} pictures at one spot</h1>`,
      all,
      wallOf(base, here),
    ]);
  return pageOf(`Map – ${title}`, base, [
    `<h1>${escaped(title)}: on a map</h1>`,
    all,
    ground === null
      ? ''
      : mapDrawing(pictures, ground, ([first, ...others]) =>
          others.length === 0 ? viewPath(base, first?.key ?? '') : `${base}/map?spot=${first?.key ?? ''}`,
        ),
    missing > 0 ? `<p>Where ${missing} of ${pictures.length} pictures were taken is not known.</p>` : '',
  ]);
}

/** One picture, large. */
export function viewPage(view: SharedView): string {
  const { title, base, picture, number, total, before, after, downloads, seconds } = view;
  const sheet = view.sheetPage === 1 ? base : `${base}?page=${view.sheetPage}`;
  const shows = seconds !== null;
  const next = after === null ? null : viewPath(base, after, shows);
  const heading = picture.caption || picture.alt;
  return pageOf(
    `${heading.slice(0, 80)} – ${title}`,
    base,
    [
      `<nav class="pager" aria-label="Pictures">${before === null ? '' : `<a rel="prev" href="${viewPath(base, before, shows)}">Before</a>`}<a rel="up" href="${sheet}">All of “${escaped(title)}”</a>${next === null ? '' : `<a rel="next" href="${next}">Next</a>`}</nav>`,
      `<figure><img src="${base}/${picture.key}/large.jpg" alt="${escaped(picture.alt)}">`,
      `<figcaption><p>${escaped(picture.caption)}</p></figcaption></figure>`,
      picture.lines.length > 0
        ? `<dl>${picture.lines.map(({ label, text }) => `<dt>${escaped(label)}</dt><dd>${escaped(text)}</dd>`).join('')}</dl>`
        : '',
      `<p class="given"><span>${number} of ${total}</span>${shows ? `<a href="${viewPath(base, picture.key)}">Stop</a>` : ''}${downloads ? `<a href="${base}/${picture.key}/picture.jpg" download>Download</a>` : ''}</p>`,
      view.answers && !shows ? answerForm(`${base}/${picture.key}/answer`, view.answers) : '',
    ],
    { seconds: shows ? seconds : null },
  );
}

function answerForm(action: string, { sender, sent, problem }: NonNullable<SharedView['answers']>): string {
  const kinds = ANSWER_KINDS.map(
    (kind, i) =>
      `<label><input type="radio" name="kind" value="${kind}"${i === 0 ? ' checked' : ''}> ${escaped(ANSWERS[kind].label)}</label>`,
  );
  return `<form method="post" action="${action}" class="answer" id="answer">
<h2>Tell us something about it</h2>
${sent ? '<p role="status">Thank you, it was sent.</p>' : ''}${problem ? `<p role="alert">${escaped(problem)}</p>` : ''}
<fieldset><legend>What do you want to say?</legend>${kinds.join('')}</fieldset>
<p><label>Your words <textarea name="text" rows="3" maxlength="${MAX_ANSWER}"></textarea></label></p>
<p><label>Your name <input name="sender" required maxlength="${MAX_SENDER}" value="${escaped(sender)}"></label> <button>Send</button></p>
</form>`;
}

/** Asks for the password of a link. */
export function passwordPage(base: string, problem: string): string {
  return pageOf(
    'Pictures',
    base,
    [
      '<h1>These pictures have a password</h1>',
      problem ? `<p role="alert">${escaped(problem)}</p>` : '',
      `<form method="post" action="${base}"><p><label>Password <input type="password" name="password" required autofocus autocomplete="off" maxlength="200"></label> <button>Show the pictures</button></p></form>`,
    ],
    { isShown: false },
  );
}

/** What everybody gets where there is nothing, whatever the reason. */
export function nothingPage(styleBase: string): string {
  return pageOf(
    'Nothing here',
    styleBase,
    [
      '<h1>There is nothing here</h1>',
      '<p>The address may have a slip, or what it showed is shown no more. Whoever gave it to you can give you another one.</p>',
    ],
    { isShown: false },
  );
}

/** The style sheet of the pages. */
export function sharedStyle(look: Look): string {
  return `${galleryStyle(look)}input, button, textarea { font: inherit; padding: 6px 10px; }
.answer { max-width: 70ch; margin: 32px auto; }
.answer h2 { font-size: 18px; }
.answer fieldset { border: 0; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 4px 16px; }
.answer textarea { display: block; width: 100%; }
`;
}

/** How often an open page looks whether it is still to be shown. */
const SECONDS_BETWEEN_LOOKS = 30;

/** Keys lead to the picture before and after and back to all; a slide show goes on; a page whose link was ended says so. */
export const SHARED_SCRIPT = `'use strict';
const follow = (rel) => document.querySelector('a[rel="' + rel + '"]')?.click();
addEventListener('keydown', (event) => {
  if (event.altKey || event.ctrlKey || event.metaKey || event.target.closest('input, textarea, button')) return;
  const rel = { ArrowLeft: 'prev', ArrowRight: 'next', Escape: 'up' }[event.key];
  if (rel) follow(rel);
});
const seconds = Number(document.documentElement.dataset.seconds);
if (seconds > 0) setTimeout(() => follow('next'), seconds * 1000);
const { base } = document.documentElement.dataset;
const look = async () => {
  if (document.hidden || !base) return;
  const answer = await fetch(base + '/here').catch(() => undefined);
  if (answer?.status === 404) location.replace(base);
};
setInterval(look, ${SECONDS_BETWEEN_LOOKS} * 1000);
addEventListener('visibilitychange', look);
`;

function viewPath(base: string, key: string, shows = false): string {
  return `${base}/${key}${shows ? '?show' : ''}`;
}

const NO_HEAD: SharedHead = { oEmbed: null, manifest: null };

/** `seconds`: after which the next picture comes; null: it waits for whoever looks. `isShown`: it shows something of a link, as long as that is there. */
function pageOf(
  title: string,
  base: string,
  body: readonly string[],
  {
    seconds = null,
    head = NO_HEAD,
    isShown = true,
  }: { seconds?: number | null; head?: SharedHead; isShown?: boolean } = {},
): string {
  const links = [
    `<link rel="stylesheet" href="${base}/style.css">`,
    head.oEmbed === null
      ? ''
      : `<link rel="alternate" type="application/json+oembed" href="${escaped(head.oEmbed)}" title="${escaped(title)}">`,
    head.manifest === null ? '' : `<link rel="alternate" type="application/ld+json" href="${escaped(head.manifest)}">`,
  ];
  return `<!doctype html>
<html lang="en"${seconds === null ? '' : ` data-seconds="${seconds}"`}${isShown ? ` data-base="${base}"` : ''}>
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="robots" content="noindex, nofollow">
<title>${escaped(title)}</title>
${links.filter(Boolean).join('\n')}
</head>
<body>
<main>
${body.filter(Boolean).join('\n')}
</main>
<script src="${base}/script.js"></script>
</body>
</html>
`;
}
