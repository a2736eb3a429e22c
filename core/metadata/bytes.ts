// Reading bytes without trusting them: a source of ranges, and small helpers over Uint8Array.

/** A file (or a block inside one) that can be asked for ranges. Reads past the end return fewer bytes, never throw. */
export interface ByteSource {
  /** Size in bytes. */
  readonly size: number;
  /** Bytes from `offset`, at most `length`; fewer at the end of the file. */
  read(offset: number, length: number): Promise<Uint8Array>;
}

/** A source over bytes in memory. */
export function memorySource(bytes: Uint8Array): ByteSource {
  return {
    size: bytes.length,
    read: (offset, length) =>
      Promise.resolve(bytes.subarray(Math.min(offset, bytes.length), Math.min(offset + length, bytes.length))),
  };
}

const HEAD_BYTES = 128 * 1024;

/** Wraps a source so that many small reads near the start of the file cost one read of its first 128 KB. */
export function withCachedHead(source: ByteSource): ByteSource {
  let head: Promise<Uint8Array> | undefined;
  return {
    size: source.size,
    async read(offset, length) {
      if (offset + length > HEAD_BYTES && offset + length <= source.size) return source.read(offset, length);
      if (offset >= HEAD_BYTES) return source.read(offset, length);
      head ??= source.read(0, HEAD_BYTES);
      const bytes = await head;
      return bytes.subarray(Math.min(offset, bytes.length), Math.min(offset + length, bytes.length));
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
  return a.length === b.length && a.every((byte, index) => byte === b[index]);
}

/** Whether `bytes` holds the ASCII text `text` at `offset`. */
export function hasAscii(bytes: Uint8Array, offset: number, text: string): boolean {
  if (offset + text.length > bytes.length) return false;
  for (let i = 0; i < text.length; i++) if (bytes[offset + i] !== text.charCodeAt(i)) return false;
  return true;
}

export function asciiBytes(text: string): Uint8Array {
  return Uint8Array.from(text, (char) => char.charCodeAt(0) & 0xff);
}

export function asciiText(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
}

const utf8 = new TextDecoder('utf-8', { fatal: true });
const windows1252 = new TextDecoder('windows-1252');

/** The text if the bytes are valid UTF-8, else undefined. */
export function utf8Text(bytes: Uint8Array): string | undefined {
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
  return windows1252.decode(bytes);
}

export function utf8Bytes(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}
