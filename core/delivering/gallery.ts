// A gallery of photos as pages that stand by themselves: they work from a folder, without a server, and without scripts. All texts
// come from outside and are escaped.

import { escaped } from '../text/html';
import type { Position } from './galleryMap';
import { mapDrawing, type MapGround } from './mapDrawing';

export const LOOKS = {
  paper: {
    label: 'Paper: light, with a serif',
    page: '#f7f4ee',
    card: '#ffffff',
    ink: '#22201c',
    soft: '#5f594f',
    accent: '#7a3b12',
    sea: '#dfe8ea',
    font: 'Georgia, "Times New Roman", serif',
  },
  night: {
    label: 'Night: dark, without one',
    page: '#15181a',
    card: '#1f2427',
    ink: '#eef1f0',
    soft: '#a9b4b0',
    accent: '#8fd6be',
    sea: '#0d1113',
    font: 'system-ui, "Segoe UI", sans-serif',
  },
} as const satisfies Record<
  string,
  Record<'label' | 'page' | 'card' | 'ink' | 'soft' | 'accent' | 'sea' | 'font', string>
>;
export type Look = keyof typeof LOOKS;
export const LOOK_IDS = Object.keys(LOOKS) as [Look, ...Look[]];

/** What a gallery shows of a photo. */
export interface GalleryPhoto {
  /** From 1: its files are called after it. */
  number: number;
  width: number;
  height: number;
  /** For those who do not see it. */
  alt: string;
  /** By language tag; x-default is that of the archive. */
  captions: Readonly<Record<string, string>>;
  /** Further lines below the large view. */
  lines: readonly { label: string; text: string }[];
  terms: readonly string[];
  /** Where it was taken; null where that is not known, or not to be shown. */
  position: Position | null;
}

export interface Gallery {
  title: string;
  words: string;
  look: Look;
  perPage: number;
  photos: readonly GalleryPhoto[];
  /** What of the world the map shows; undefined: there is none. */
  map?: MapGround | undefined;
}

/** The page with the map. */
const MAP_PAGE = 'map.html';

const DEFAULT = 'x-default';

export function fileOf({ number }: Pick<GalleryPhoto, 'number'>): string {
  return String(number).padStart(5, '0');
}

/** A list of photos over one or several pages. */
interface Listing {
  title: string;
  /** The name of its first page, without extension. */
  name: string;
  photos: readonly GalleryPhoto[];
}

/** All pages of a gallery by name, one after the other. */
export function* galleryPages(gallery: Gallery): Generator<{ name: string; text: string }> {
  yield { name: 'style.css', text: galleryStyle(gallery.look) };
  yield { name: 'script.js', text: SCRIPT };
  const terms = termListings(gallery.photos);
  const listings: Listing[] = [{ title: gallery.title, name: 'index', photos: gallery.photos }, ...terms];
  if (gallery.map) {
    const { text, spots } = mapPage(gallery, gallery.map);
    yield { name: MAP_PAGE, text };
    listings.push(...spots);
  }
  for (const listing of listings) yield* listPages(gallery, listing, terms);
  for (const [at, photo] of gallery.photos.entries())
    yield { name: `photo-${fileOf(photo)}.html`, text: photoPage(gallery, photo, at, terms) };
}

function termListings(photos: readonly GalleryPhoto[]): Listing[] {
  const byTerm = new Map<string, GalleryPhoto[]>();
  for (const photo of photos)
    for (const term of new Set(photo.terms)) {
      const found = byTerm.get(term);
      if (found) found.push(photo);
      else byTerm.set(term, [photo]);
    }
  return [...byTerm]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([title, found], i) => ({ title, name: `term-${i + 1}`, photos: found }));
}

function* listPages(gallery: Gallery, listing: Listing, terms: readonly Listing[]) {
  const pages = Math.max(1, Math.ceil(listing.photos.length / gallery.perPage));
  const nameOf = (page: number) => `${listing.name}${page === 1 ? '' : `-${page}`}.html`;
  for (let page = 1; page <= pages; page++) {
    const shown = listing.photos.slice((page - 1) * gallery.perPage, page * gallery.perPage);
    const body = [
      `<h1>${escaped(listing.title)}</h1>`,
      listing.name === 'index' && gallery.words ? `<p class="words">${escaped(gallery.words)}</p>` : '',
      listing.name === 'index' ? '' : '<p><a href="index.html">All pictures</a></p>',
      gallery.map ? `<p><a href="${MAP_PAGE}">On a map</a></p>` : '',
      termList(terms, listing.name),
      `<ul class="wall">${shown.map(tile).join('')}</ul>`,
      pages > 1 ? pager(page, pages, nameOf) : '',
    ];
    const links = [page > 1 ? link('prev', nameOf(page - 1)) : '', page < pages ? link('next', nameOf(page + 1)) : ''];
    yield { name: nameOf(page), text: pageOf(`${listing.title}${page > 1 ? `, page ${page}` : ''}`, links, body) };
  }
}

function termList(terms: readonly Listing[], now: string): string {
  if (terms.length === 0) return '';
  const items = terms.map(
    ({ title, name, photos }) =>
      `<li><a href="${name}.html"${name === now ? ' aria-current="page"' : ''}>${escaped(title)}</a> <span>${photos.length}</span></li>`,
  );
  return `<nav class="terms" aria-label="Terms"><ul>${items.join('')}</ul></nav>`;
}

/** The map, and the lists of what was taken at spots where it was more than one picture. */
function mapPage({ title, photos }: Gallery, ground: MapGround): { text: string; spots: Listing[] } {
  const spots: Listing[] = [];
  const drawing = mapDrawing(photos, ground, (here) => {
    const [first] = here;
    if (here.length === 1) return `photo-${first ? fileOf(first) : ''}.html`;
    const name = `spot-${spots.length + 1}`;
    spots.push({ title: `${here.length} pictures at one spot`, name, photos: here });
    return `${name}.html`;
  });
  const missing = photos.filter(({ position }) => position === null).length;
  const body = [
    `<h1>${escaped(title)}: on a map</h1>`,
    '<p><a href="index.html">All pictures</a></p>',
    drawing,
    missing > 0 ? `<p>Where ${missing} of ${photos.length} pictures were taken is not known.</p>` : '',
  ];
  return { text: pageOf(`Map – ${title}`, [link('up', 'index.html')], body), spots };
}

function tile(photo: GalleryPhoto): string {
  return `<li><a href="photo-${fileOf(photo)}.html"><img src="small/${fileOf(photo)}.jpg" alt="${escaped(photo.alt)}" loading="lazy"></a></li>`;
}

function pager(page: number, pages: number, nameOf: (page: number) => string): string {
  const to = (at: number, words: string) => (at < 1 || at > pages ? '' : `<a href="${nameOf(at)}">${words}</a>`);
  return `<nav class="pager" aria-label="Pages">${to(page - 1, 'Before')}<span>Page ${page} of ${pages}</span>${to(page + 1, 'Next')}</nav>`;
}

function photoPage(
  { title, photos, perPage }: Gallery,
  photo: GalleryPhoto,
  at: number,
  terms: readonly Listing[],
): string {
  const [before, after] = [photos[at - 1], photos[at + 1]];
  const listed = Math.floor(at / perPage) + 1;
  const up = listed === 1 ? 'index.html' : `index-${listed}.html`;
  const given = terms.filter(({ title: term }) => photo.terms.includes(term));
  const body = [
    `<nav class="pager" aria-label="Pictures">${before ? `<a href="photo-${fileOf(before)}.html">Before</a>` : ''}<a href="${up}">All of “${escaped(title)}”</a>${after ? `<a href="photo-${fileOf(after)}.html">Next</a>` : ''}</nav>`,
    `<figure><img src="large/${fileOf(photo)}.jpg" width="${photo.width}" height="${photo.height}" alt="${escaped(photo.alt)}">`,
    `<figcaption>${captions(photo)}</figcaption></figure>`,
    photo.lines.length > 0
      ? `<dl>${photo.lines.map(({ label, text }) => `<dt>${escaped(label)}</dt><dd>${escaped(text)}</dd>`).join('')}</dl>`
      : '',
    given.length > 0
      ? `<p class="given">${given.map(({ title: term, name }) => `<a href="${name}.html">${escaped(term)}</a>`).join(' ')}</p>`
      : '',
  ];
  const links = [
    before ? link('prev', `photo-${fileOf(before)}.html`) : '',
    after ? link('next', `photo-${fileOf(after)}.html`) : '',
    link('up', up),
  ];
  const heading = photo.captions[DEFAULT] ?? photo.alt;
  return pageOf(`${heading.slice(0, 80)} – ${title}`, links, body);
}

/** Each language stands there; a script lets people choose one. */
function captions({ captions: said }: GalleryPhoto): string {
  const entries = Object.entries(said).filter(([, text]) => text !== '');
  const paragraphs = entries.map(
    ([language, text]) =>
      `<p${language === DEFAULT ? '' : ` lang="${escaped(language)}"`} data-said>${escaped(text)}</p>`,
  );
  return paragraphs.join('');
}

function link(rel: string, href: string): string {
  return `<link rel="${rel}" href="${href}">`;
}

function pageOf(title: string, links: readonly string[], body: readonly string[]): string {
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta name="referrer" content="no-referrer">
<title>${escaped(title)}</title>
<link rel="stylesheet" href="style.css">
${links.filter(Boolean).join('\n')}
</head>
<body>
<main>
${body.filter(Boolean).join('\n')}
</main>
<script src="script.js"></script>
</body>
</html>
`;
}

/** The style sheet of a look. */
export function galleryStyle(look: Look): string {
  const { page, card, ink, soft, accent, sea, font } = LOOKS[look];
  return `:root { color-scheme: ${look === 'night' ? 'dark' : 'light'}; }
* { box-sizing: border-box; }
body { margin: 0; background: ${page}; color: ${ink}; font: 16px/1.5 ${font}; }
main { max-width: 1280px; margin: 0 auto; padding: 24px; }
h1 { font-size: 28px; font-weight: 600; margin: 0 0 12px; }
a { color: ${accent}; }
a:focus-visible { outline: 3px solid ${accent}; outline-offset: 2px; }
.words { max-width: 70ch; }
.terms ul { display: flex; flex-wrap: wrap; gap: 4px 16px; padding: 0; margin: 0 0 20px; list-style: none; }
.terms span { color: ${soft}; }
.terms a[aria-current] { font-weight: 700; text-decoration: none; }
.wall { display: grid; grid-template-columns: repeat(auto-fill, minmax(180px, 1fr)); gap: 14px; padding: 0; margin: 0; list-style: none; }
.wall a { display: flex; height: 190px; background: ${card}; padding: 8px; align-items: center; justify-content: center; }
.wall img { max-width: 100%; max-height: 100%; }
.map { display: block; width: 100%; height: auto; max-height: 82vh; background: ${sea}; }
.map .land { fill: ${card}; fill-rule: evenodd; stroke: none; }
.map .coast { fill: none; stroke: ${soft}; stroke-width: 1; }
.map circle { fill: ${accent}; stroke: ${page}; stroke-width: 2; }
.map a:focus-visible circle, .map a:hover circle { stroke: ${ink}; stroke-width: 4; }
.map a text { fill: ${page}; font-size: 12px; font-weight: 700; text-anchor: middle; }
.map .town { fill: ${soft}; font-size: 13px; }
.map .town circle { fill: ${soft}; stroke: none; }
.pager { display: flex; justify-content: center; gap: 24px; margin: 20px 0; }
figure { margin: 0; text-align: center; }
figure img { max-width: 100%; height: auto; max-height: 80vh; width: auto; }
figcaption { max-width: 70ch; margin: 12px auto; text-align: left; }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 16px; max-width: 70ch; margin: 16px auto; }
dt { color: ${soft}; }
dd { margin: 0; }
.given, .languages { max-width: 70ch; margin: 12px auto; display: flex; flex-wrap: wrap; gap: 4px 16px; }
.languages button { font: inherit; color: inherit; background: ${card}; border: 1px solid ${soft}; border-radius: 4px; padding: 2px 10px; cursor: pointer; }
.languages button[aria-pressed="true"] { border-color: ${accent}; font-weight: 700; }
[hidden] { display: none; }
`;
}

/** Keys lead to the picture before and after, and back; the language of captions is chosen and remembered while the page is open. */
const SCRIPT = `'use strict';
addEventListener('keydown', (event) => {
  if (event.altKey || event.ctrlKey || event.metaKey || event.target.closest('button, input')) return;
  const rel = { ArrowLeft: 'prev', ArrowRight: 'next', Escape: 'up' }[event.key];
  const link = rel && document.querySelector('link[rel="' + rel + '"]');
  if (link) location.href = link.href;
});
const said = [...document.querySelectorAll('[data-said]')];
if (said.length > 1) {
  const bar = document.createElement('p');
  bar.className = 'languages';
  const show = (chosen) => {
    said.forEach((each, i) => { each.hidden = i !== chosen; });
    [...bar.children].forEach((button, i) => button.setAttribute('aria-pressed', String(i === chosen)));
  };
  said.forEach((each, i) => {
    const button = document.createElement('button');
    button.type = 'button';
    button.textContent = each.lang || 'Original';
    button.onclick = () => show(i);
    bar.append(button);
  });
  said[0].parentElement.prepend(bar);
  const wanted = said.findIndex((each) => each.lang && navigator.language.startsWith(each.lang));
  show(Math.max(0, wanted));
}
`;
