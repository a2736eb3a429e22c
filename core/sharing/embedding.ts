// A view link in a page of somebody else: which pages may, and what they are told of it (oEmbed 1.0, https://oembed.com).

/** A page of others as browsers name it: scheme, host and port, nothing else. */
export function originOf(text: string): string | undefined {
  if (!URL.canParse(text)) return undefined;
  const { origin, protocol, pathname, search, hash, username } = new URL(text);
  const isPlain = pathname === '/' && search === '' && hash === '' && username === '';
  return isPlain && (protocol === 'https:' || protocol === 'http:') ? origin : undefined;
}

const WIDTH = 800;
const HEIGHT = 600;
const LEAST = 200;

/** What a page is told that asks with the address of a link: a frame that shows it, no larger than it wants. `title` is escaped already. */
export function oEmbedOf(
  { address, title, escapedTitle }: { address: string; title: string; escapedTitle: string },
  { maxwidth = WIDTH, maxheight = HEIGHT }: { maxwidth?: number | undefined; maxheight?: number | undefined },
) {
  const width = Math.max(LEAST, Math.min(WIDTH, maxwidth));
  const height = Math.max(LEAST, Math.min(HEIGHT, maxheight));
  return {
    version: '1.0',
    type: 'rich',
    title,
    provider_name: 'Stellin',
    html: `<iframe src="${address}" width="${width}" height="${height}" title="${escapedTitle}" loading="lazy" style="border:0"></iframe>`,
    width,
    height,
  };
}
