// The namespaces of XMP properties that we name, with the prefixes their standards prefer.

export interface XmpName {
  namespace: string;
  /** The prefix written when the packet declares none for the namespace. */
  prefix: string;
  name: string;
}

export const NAMESPACES = {
  dc: 'http://purl.org/dc/elements/1.1/',
  photoshop: 'http://ns.adobe.com/photoshop/1.0/',
  xmp: 'http://ns.adobe.com/xap/1.0/',
  xmpRights: 'http://ns.adobe.com/xap/1.0/rights/',
  xmpNote: 'http://ns.adobe.com/xmp/note/',
  xmpDM: 'http://ns.adobe.com/xmp/1.0/DynamicMedia/',
  Iptc4xmpCore: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/',
  Iptc4xmpExt: 'http://iptc.org/std/Iptc4xmpExt/2008-02-29/',
  plus: 'http://ns.useplus.org/ldf/xmp/1.0/',
  exif: 'http://ns.adobe.com/exif/1.0/',
  tiff: 'http://ns.adobe.com/tiff/1.0/',
  'mwg-kw': 'http://www.metadataworkinggroup.com/schemas/keywords/',
  'mwg-rs': 'http://www.metadataworkinggroup.com/schemas/regions/',
  stArea: 'http://ns.adobe.com/xmp/sType/Area#',
  stDim: 'http://ns.adobe.com/xap/1.0/sType/Dimensions#',
  // Our own, for what no standard has a place for; docs/metadata.md describes it.
  stellin: 'http://ns.stellin.example/1.0/',
  rdf: 'http://www.w3.org/1999/02/22-rdf-syntax-ns#',
  x: 'adobe:ns:meta/',
} as const;

const prefixes = new Map<string, string>(Object.entries(NAMESPACES).map(([prefix, namespace]) => [namespace, prefix]));

/** The name that a text like `dc:title` stands for. Throws an Error on a prefix that is not ours: a mistake in the code. */
export function xmpName(text: string): XmpName {
  const [prefix = '', name = ''] = text.split(':');
  const namespace = Object.entries(NAMESPACES).find(([known]) => known === prefix)?.[1];
  if (!namespace) throw new Error(`No namespace for ${text}`);
  return { namespace, prefix, name };
}

/** The prefix its standard prefers for a namespace; undefined for one that we do not name. */
export function knownPrefix(namespace: string): string | undefined {
  return prefixes.get(namespace);
}
