// The strip of pictures over the whole length of a film, and the waveform of a sound.

/** How many pictures a strip has. */
export const STRIP_FRAMES = 24;

/** The moments of which a strip shows the pictures, in seconds: the middle of each of as many equal parts. */
export function stripMoments(duration: number, frames = STRIP_FRAMES): number[] {
  return Array.from({ length: frames }, (_, i) => ((i + 0.5) / frames) * duration);
}

/** Which picture of a strip stands for a part of its length, from 0 to 1. */
export function stripFrame(part: number, frames = STRIP_FRAMES): number {
  return Math.max(0, Math.min(frames - 1, Math.floor(part * frames)));
}

/** Takes the samples of a sound one after the other, and keeps the loudest of each equal part of it. */
export class Loudness {
  private readonly peaks: Float32Array;
  private taken = 0;

  /** `samples`: how many there will be, about. */
  constructor(
    parts: number,
    private readonly samples: number,
  ) {
    this.peaks = new Float32Array(parts);
  }

  /** Samples from −32,768 to 32,767. */
  take(samples: Int16Array): void {
    for (const sample of samples) {
      const part = Math.min(this.peaks.length - 1, Math.floor((this.taken++ / this.samples) * this.peaks.length));
      this.peaks[part] = Math.max(this.peaks[part] ?? 0, Math.abs(sample) / 32_768);
    }
  }

  /** From 0 for silence to 1 in thousandths, a number a part. */
  ofParts(): number[] {
    return Array.from(this.peaks, (peak) => Math.round(peak * 1000) / 1000);
  }
}

/** The waveform as a drawing (SVG path data) in a frame: a bar a part, mirrored about the middle. */
export function waveformPath(peaks: readonly number[], width: number, height: number): string {
  const step = width / peaks.length;
  return peaks
    .map((peak, i) => {
      const half = Math.max(0.5, (peak * height) / 2);
      const x = ((i + 0.5) * step).toFixed(1);
      return `M${x} ${(height / 2 - half).toFixed(1)}V${(height / 2 + half).toFixed(1)}`;
    })
    .join('');
}
