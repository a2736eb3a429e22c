// What a film or sound is: asked of ffprobe, which knows their many kinds.

import { mediaOf, type Probed } from '@stellin/core/metadata/probed';
import type { LookedMedia } from '@stellin/core/metadata/probed';
import { z } from 'zod';
import { messageOf } from '../errors';
import { MissingTool, runToolNow } from './tools';

const LIMITS = { seconds: 20, megabytes: 1500 };
/** Of a text; longer tags are no tags. */
const MAX_TAG = 10_000;

/**
 * Kinds of files that are read, as ffmpeg calls them. Lists of other files are not among them: a file that is taken in must not make
 * anything else be opened.
 */
const FORMATS =
  'mov,mp4,m4a,3gp,3g2,matroska,webm,avi,mpegts,mpeg,mpegvideo,mxf,mp3,wav,w64,aiff,flac,aac,ogg,h264,hevc,m4v';

/** What every reading by ffmpeg begins with: it opens the file and nothing else. */
export const SAFELY = ['-protocol_whitelist', 'file', '-format_whitelist', FORMATS] as const;

const tags = z
  .record(z.string(), z.coerce.string())
  .transform((all) => Object.fromEntries(Object.entries(all).filter(([, text]) => text.length <= MAX_TAG)))
  .catch({});
const number = z.coerce.number().positive().finite().optional().catch(undefined);
const text = z.string().optional().catch(undefined);

const probedShape = z.object({
  format: z.object({
    format_long_name: z.string().catch('unknown'),
    duration: number,
    bit_rate: number,
    tags: tags.optional(),
  }),
  streams: z
    .array(
      z.object({
        codec_type: z.string().catch('unknown'),
        codec_name: text,
        width: number,
        height: number,
        r_frame_rate: text,
        avg_frame_rate: text,
        bits_per_raw_sample: number,
        bits_per_sample: number,
        sample_rate: number,
        channels: number,
        color_transfer: text,
        color_primaries: text,
        disposition: z.object({ attached_pic: z.number() }).partial().optional().catch(undefined),
        side_data_list: z
          .array(z.object({ rotation: z.number().optional() }))
          .optional()
          .catch(undefined),
        tags: tags.optional(),
      }),
    )
    .max(200)
    .catch([]),
});

/** What a film or sound is; or why that can’t be said. */
export function probeMedia(path: string): LookedMedia {
  try {
    const said = runToolNow(
      'ffprobe',
      ['-v', 'error', ...SAFELY, '-print_format', 'json', '-show_format', '-show_streams', '-i', `file:${path}`],
      LIMITS,
    );
    return mediaOf(probedOf(JSON.parse(said.toString())));
  } catch (error) {
    // Without the program nothing is known; that is no fault of the file.
    return error instanceof MissingTool
      ? { problem: `nothing is known of its streams: ${error.message}`, damaged: false }
      : { problem: `its streams could not be read: ${messageOf(error)}`, damaged: true };
  }
}

function probedOf(json: unknown): Probed {
  const { format, streams } = probedShape.parse(json);
  return {
    container: format.format_long_name,
    duration: format.duration,
    bitRate: format.bit_rate,
    tags: format.tags ?? {},
    streams: streams.map((stream) => ({
      type: stream.codec_type,
      codec: stream.codec_name,
      width: stream.width,
      height: stream.height,
      nominalRate: stream.r_frame_rate,
      averageRate: stream.avg_frame_rate,
      bitsPerSample: stream.bits_per_raw_sample ?? stream.bits_per_sample,
      sampleRate: stream.sample_rate,
      channels: stream.channels,
      transfer: stream.color_transfer,
      primaries: stream.color_primaries,
      rotation: stream.side_data_list?.find(({ rotation }) => rotation !== undefined)?.rotation,
      isCover: stream.disposition?.attached_pic === 1,
      tags: stream.tags ?? {},
    })),
  };
}
