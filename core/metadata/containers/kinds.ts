// The kinds of files, each with what the rest of the program asks about kinds. Nobody else lists them: who needs some asks for a
// property. A new kind without an entry does not compile.

/** A picture that stands still, one that moves, what is only heard, pages, or a description beside another file. */
export type Media = (typeof MEDIA)[number] | 'sidecar';
/** What a catalogue holds. */
export const MEDIA = ['still', 'film', 'sound', 'document'] as const;

interface KindFacts {
  label: string;
  media: Media;
  /** What a sensor recorded: developed by every program in its own way. */
  raw: boolean;
  /** Descriptions can go into the file itself; else they go into a sidecar. */
  embeds: boolean;
  /** Other programs turn its picture as its metadata says, so that turning it is a word and not a new picture. */
  turns: boolean;
  /** The file says how large its picture is. */
  tellsSize: boolean;
  /** Each of its pages can be shown, where it has several. */
  pages: boolean;
  /** Which of several files of one picture leads a bundle: the lower goes first; what every program shows comes before the rest. */
  leads: number;
}

const facts = (
  label: string,
  media: KindFacts['media'],
  leads: number,
  {
    raw = false,
    embeds = false,
    turns = false,
    tellsSize = true,
    pages = media === 'still',
  }: Partial<Pick<KindFacts, 'raw' | 'embeds' | 'turns' | 'tellsSize' | 'pages'>> = {},
): KindFacts => ({ label, media, raw, embeds, turns, tellsSize, pages, leads });

const OTHERS_LEAD = 99;

const film = (label: string, embeds = false) => facts(label, 'film', OTHERS_LEAD, { tellsSize: false, embeds });
const sound = (label: string, embeds = false) => facts(label, 'sound', OTHERS_LEAD, { tellsSize: false, embeds });

export const KIND_FACTS = {
  jpeg: facts('JPEG', 'still', 1, { embeds: true, turns: true }),
  tiff: facts('TIFF', 'still', 2, { embeds: true, turns: true }),
  png: facts('PNG', 'still', 3, { embeds: true, turns: true }),
  webp: facts('WebP', 'still', 4, { embeds: true, turns: true }),
  heic: facts('HEIC', 'still', 5),
  avif: facts('AVIF', 'still', 6),
  jxl: facts('JPEG XL', 'still', 8, { tellsSize: false }),
  jp2: facts('JPEG 2000', 'still', 9, { tellsSize: false }),
  psd: facts('PSD', 'still', 7, { embeds: true }),
  dng: facts('DNG', 'still', OTHERS_LEAD, { raw: true, embeds: true, turns: true }),
  raw: facts('Raw', 'still', OTHERS_LEAD, { raw: true, turns: true, tellsSize: false }),
  gif: facts('GIF', 'still', OTHERS_LEAD),
  mp4: film('MP4', true),
  mov: film('MOV'),
  '3gp': film('3GP', true),
  mkv: film('Matroska'),
  webm: film('WebM'),
  avi: film('AVI'),
  mts: film('MPEG-TS'),
  mpeg: film('MPEG-PS'),
  mxf: film('MXF'),
  wav: sound('WAV', true),
  aiff: sound('AIFF'),
  flac: sound('FLAC'),
  mp3: sound('MP3'),
  m4a: sound('M4A', true),
  aac: sound('AAC'),
  ogg: sound('Ogg'),
  pdf: facts('PDF', 'document', OTHERS_LEAD, { tellsSize: false, pages: true }),
  odf: facts('OpenDocument', 'document', OTHERS_LEAD, { tellsSize: false }),
  ooxml: facts('Office Open XML', 'document', OTHERS_LEAD, { tellsSize: false }),
  xmp: facts('XMP', 'sidecar', OTHERS_LEAD, { tellsSize: false }),
} as const satisfies Record<string, KindFacts>;

export type FileKind = keyof typeof KIND_FACTS;

/** What is known of a kind. */
export function kindFacts(kind: FileKind): KindFacts {
  return KIND_FACTS[kind];
}

/** The kinds of which something is so. */
export function kindsWhere(isSo: (of: KindFacts) => boolean): FileKind[] {
  return (Object.keys(KIND_FACTS) as FileKind[]).filter((kind) => isSo(KIND_FACTS[kind]));
}

/** How a kind is called. */
export function kindLabel(kind: FileKind): string {
  return (KIND_FACTS as Partial<Record<string, KindFacts>>)[kind]?.label ?? kind;
}

/** Those that run in time: films and sounds. */
export const TIMED_KINDS: readonly FileKind[] = kindsWhere(({ media }) => media === 'film' || media === 'sound');

/** Whether files of a kind run in time. */
export function isTimed(kind: FileKind | undefined): boolean {
  return kind !== undefined && TIMED_KINDS.includes(kind);
}
