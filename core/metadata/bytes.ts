// Reading bytes without trusting them: a source of ranges, and small helpers over Uint8Array.

/**
 * A file (or a block inside one) that can be asked for ranges. Reads past the end return fewer bytes and never throw;
 * errors of the file system pass through. What was read is valid until the source is closed: copy or decode what is to
 * stay. Reading is synchronous, since the codec runs in worker threads.
 */
export interface ByteSource {
  /** Size in bytes. */
  readonly size: number;
  /** Bytes from `offset`, at most `length`; fewer at the end of the file. */
  read(offset: number, length: number): Uint8Array;
}

export const NO_BYTES = new Uint8Array();

/** A source over bytes in memory. */
export function memorySource(bytes: Uint8Array): ByteSource {
  return { size: bytes.length, read: (offset, length) => bytes.subarray(offset, Math.max(offset, offset + length)) };
}

/** A part of a source as a source of its own. */
export function partOf(source: ByteSource, start: number, size = source.size - start): ByteSource {
  const inside = Math.max(0, Math.min(size, source.size - start));
  return {
    size: inside,
    read: (offset, length) => source.read(start + offset, Math.max(0, Math.min(length, inside - offset))),
  };
}

const HEAD_BYTES = 64 * 1024;
const WINDOW_BYTES = 8 * 1024;

/** Wraps a source so that small reads cost few: the first 64 KB are read once, and elsewhere windows of 8 KB. */
export function buffered(source: ByteSource): ByteSource {
  let head: Uint8Array | undefined;
  let window: Uint8Array = NO_BYTES;
  let windowStart = 0;
  return {
    size: source.size,
    read(offset, length) {
      const end = offset + length;
      if (offset < 0 || length <= 0) return NO_BYTES;
      if (end <= HEAD_BYTES || (offset < HEAD_BYTES && source.size <= HEAD_BYTES)) {
        head ??= source.read(0, HEAD_BYTES);
        return head.subarray(offset, end);
      }
      if (length > WINDOW_BYTES) return source.read(offset, length);
      if (offset < windowStart || end > windowStart + window.length) {
        window = source.read(offset, WINDOW_BYTES);
        windowStart = offset;
      }
      return window.subarray(offset - windowStart, end - windowStart);
    },
  };
}

export function viewOf(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}

export function concatBytes(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

export function bytesEqual(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** Whether `bytes` holds the ASCII text `text` at `offset`. */
export function hasAscii(bytes: Uint8Array, offset: number, text: string): boolean {
  if (offset + text.length > bytes.length) return false;
  for (let i = 0; i < text.length; i++) if (bytes[offset + i] !== text.charCodeAt(i)) return false;
  return true;
}

/** Where an ASCII text stands in the bytes, from `from` on; −1 when it does not. */
export function indexOfAscii(bytes: Uint8Array, text: string, from = 0): number {
  const first = text.charCodeAt(0);
  for (let at = bytes.indexOf(first, from); at >= 0; at = bytes.indexOf(first, at + 1))
    if (hasAscii(bytes, at, text)) return at;
  return -1;
}

export function asciiBytes(text: string): Uint8Array {
  return Uint8Array.from(text, (char) => char.charCodeAt(0) & 0xff);
}

export function asciiText(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i++) text += String.fromCharCode(bytes[i] ?? 0);
  return text;
}

export function isAscii(bytes: Uint8Array): boolean {
  for (let i = 0; i < bytes.length; i++) if ((bytes[i] ?? 0) >= 0x80) return false;
  return true;
}

export function hexText(bytes: Uint8Array): string {
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

export function uint32(value: number): Uint8Array {
  const bytes = new Uint8Array(4);
  viewOf(bytes).setUint32(0, value);
  return bytes;
}

export function uint32le(value: number): Uint8Array {
  const bytes = new Uint8Array(4);
  viewOf(bytes).setUint32(0, value, true);
  return bytes;
}

const utf8 = new TextDecoder('utf-8', { fatal: true });
const windows1252 = new TextDecoder('windows-1252');
const encoder = new TextEncoder();

/** Below this, plain ASCII goes faster letter by letter than through an encoder or decoder. */
const SHORT_TEXT = 128;

/** The text if the bytes are valid UTF-8, else undefined. */
export function utf8Text(bytes: Uint8Array): string | undefined {
  if (bytes.length < SHORT_TEXT && isAscii(bytes)) return asciiText(bytes);
  try {
    return utf8.decode(bytes);
  } catch {
    return undefined;
  }
}

/** Text of unknown encoding: UTF-8 when valid, else Windows-1252, which decodes anything. */
export function looseText(bytes: Uint8Array): string {
  return utf8Text(bytes) ?? windows1252.decode(bytes);
}

export function windows1252Text(bytes: Uint8Array): string {
  if (bytes.length < SHORT_TEXT && isAscii(bytes)) return asciiText(bytes);
  return windows1252.decode(bytes);
}

export function utf8Bytes(text: string): Uint8Array {
  if (text.length >= SHORT_TEXT) return encoder.encode(text);
  const bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code >= 0x80) return encoder.encode(text);
    bytes[i] = code;
  }
  return bytes;
}

/** At most `max` bytes of UTF-8, never ending inside a character. */
export function cutBytes(bytes: Uint8Array, max: number): Uint8Array {
  if (bytes.length <= max) return bytes;
  let end = max;
  while (end > 0 && ((bytes[end] ?? 0) & 0xc0) === 0x80) end--;
  return bytes.subarray(0, end);
}
