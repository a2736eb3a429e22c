// What browsers play, by what a file is.

import type { FileKind } from '../metadata/containers/kinds';
import type { MediaFacts } from '../metadata/probed';

interface Plays {
  mediaType: string;
  /** Codecs of pictures and of sound, as ffmpeg calls them. */
  film: readonly string[];
  sound: readonly string[];
}

const OF_MP4: Pick<Plays, 'film' | 'sound'> = {
  film: ['h264', 'av1', 'vp9'],
  sound: ['aac', 'mp3', 'opus', 'flac'],
};
const OF_WEBM: Pick<Plays, 'film' | 'sound'> = { film: ['vp8', 'vp9', 'av1'], sound: ['opus', 'vorbis'] };

/** Containers that browsers play. Others, and other codecs, are copied into one that they do. */
const PLAYED: Partial<Record<FileKind, Plays>> = {
  mp4: { mediaType: 'video/mp4', ...OF_MP4 },
  mov: { mediaType: 'video/mp4', ...OF_MP4 },
  '3gp': { mediaType: 'video/mp4', ...OF_MP4 },
  webm: { mediaType: 'video/webm', ...OF_WEBM },
  wav: { mediaType: 'audio/wav', film: [], sound: ['pcm_u8', 'pcm_s16le', 'pcm_s24le', 'pcm_f32le'] },
  mp3: { mediaType: 'audio/mpeg', film: [], sound: ['mp3'] },
  flac: { mediaType: 'audio/flac', film: [], sound: ['flac'] },
  m4a: { mediaType: 'audio/mp4', film: [], sound: ['aac', 'mp3', 'flac', 'opus'] },
  aac: { mediaType: 'audio/aac', film: [], sound: ['aac'] },
  ogg: { mediaType: 'audio/ogg', film: [], sound: ['vorbis', 'opus', 'flac'] },
};

/** The media type (RFC 6838) by which browsers play a file as it is; undefined where they don’t. */
export function playedAs(
  kind: FileKind,
  isFilm: boolean,
  { codec, audioCodec }: Pick<MediaFacts, 'codec' | 'audioCodec'>,
): string | undefined {
  const played = PLAYED[kind];
  if (!played || codec === undefined) return undefined;
  const { film, sound, mediaType } = played;
  if (!isFilm) return sound.includes(codec) ? mediaType : undefined;
  return film.includes(codec) && (audioCodec === undefined || sound.includes(audioCodec)) ? mediaType : undefined;
}
