// The secrets of view links: addresses, keys of pictures, and cookies. Nothing here is kept; what the database holds opens no link.

import { createCipheriv, createDecipheriv, createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';

const TOKEN_BYTES = 16;
export const SECRET_BYTES = 32;
const KEY_BYTES = 16;
/** One block of AES (FIPS 197): what does not decipher to a number and zeros is no key of ours. */
const CIPHER = 'aes-128-ecb';
const COOKIE_MS = 12 * 3600 * 1000;

/** A new secret part of an address: 128 random bits. */
export function newLinkToken(): { token: string; hash: Buffer; secret: Buffer } {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  return { token, hash: linkHash(token), secret: randomBytes(SECRET_BYTES) };
}

/** What is kept of the secret part of an address. */
export function linkHash(token: string): Buffer {
  return createHash('sha256').update(token).digest();
}

/** The key by which a link names a photo. It means nothing elsewhere. */
export function pictureKey(secret: Buffer, photoId: number): string {
  const block = Buffer.alloc(KEY_BYTES);
  block.writeUInt32BE(photoId);
  const cipher = createCipheriv(CIPHER, secret.subarray(0, KEY_BYTES), null).setAutoPadding(false);
  return Buffer.concat([cipher.update(block), cipher.final()]).toString('base64url');
}

/** The photo that a key of a link names; undefined for what is none of its keys. */
export function photoOfKey(secret: Buffer, key: string): number | undefined {
  const block = Buffer.from(key, 'base64url');
  if (block.length !== KEY_BYTES || block.toString('base64url') !== key) return undefined;
  const decipher = createDecipheriv(CIPHER, secret.subarray(0, KEY_BYTES), null).setAutoPadding(false);
  const plain = Buffer.concat([decipher.update(block), decipher.final()]);
  return plain.subarray(4).every((byte) => byte === 0) ? plain.readUInt32BE() : undefined;
}

/** A cookie that says that somebody was let in, for some hours. */
export function entryCookie(secret: Buffer, now: number): string {
  const until = String(now + COOKIE_MS);
  return `${until}.${signed(secret, until)}`;
}

/** Whether a cookie lets somebody in. */
export function isEntry(secret: Buffer, cookie: string | undefined, now: number): boolean {
  const [until = '', signature = ''] = (cookie ?? '').split('.');
  const given = Buffer.from(signature);
  const wanted = Buffer.from(signed(secret, until));
  return given.length === wanted.length && timingSafeEqual(given, wanted) && Number(until) > now;
}

function signed(secret: Buffer, until: string): string {
  return createHmac('sha256', secret.subarray(KEY_BYTES)).update(until).digest('base64url');
}
