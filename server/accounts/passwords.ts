// Passwords: which are refused, and how they are kept and compared.

import { randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { newPassword } from '@stellin/contract/accounts';
import type { DataKind } from '../config';
import { StellinError } from '../errors';
import { isPublished } from './demoAccounts';

/** Passwords that many people have chosen: the first that anybody tries. */
const COMMON = new Set(dictionary['passwords-common']);
// Compared with when the name is unknown, so that the time taken tells nothing about which names exist.
const nobody = hash(randomBytes(16).toString('hex'));

/** Why a password is refused, as the end of a sentence; undefined for one that may be used. */
function refusalOf(password: string, name: string, kind: DataKind): string | undefined {
  const given = newPassword.safeParse(password);
  if (!given.success) return given.error.issues[0]?.message;
  if (kind === 'archive' && isPublished(password)) return 'everybody can read it: it belongs to the demo';
  const plain = password.trim().toLowerCase();
  if (COMMON.has(plain)) return 'many people use it, and it is among the first that are tried';
  if (/^[^a-z]*$/.test(plain.replaceAll(name, ''))) return 'it is the sign-in name';
  if (new Set(plain).size < MIN_DIFFERENT) return 'it repeats a few characters';
  return undefined;
}

const MIN_DIFFERENT = 4;

/** The hash of a password that is chosen for an account. Refuses one that is too short, too long, or that others would guess. */
export async function hashOf(password: string, name: string, kind: DataKind): Promise<string> {
  const why = refusalOf(password, name, kind);
  if (why !== undefined) throw new StellinError('passwordRefused', { why });
  return hash(password);
}

/** The hash of a password that opens something else than an account: it may be any. */
export const plainHashOf = (password: string): Promise<string> => hash(password);

/** Whether a password is the one of a hash; against none it never is, and takes as long. */
export async function isPasswordOf(passwordHash: string | null | undefined, password: string): Promise<boolean> {
  const right = await verify(passwordHash ?? (await nobody), password);
  return right && passwordHash !== null && passwordHash !== undefined;
}
