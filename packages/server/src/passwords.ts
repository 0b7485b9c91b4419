import { hash, verify } from '@node-rs/argon2';
import { Refusal } from './errors.js';

/** Hash to store for a password: argon2id with the library’s parameters. */
export const hashPassword = (password: string): Promise<string> => hash(password);

/** Compared when no account has the e-mail, so that the answer takes as long as a wrong password. */
let nobody: Promise<string> | undefined;

export async function isPasswordOf(passwordHash: string | undefined, password: string): Promise<boolean> {
  nobody ??= hashPassword('nobody has this password');
  // An account that was taken in from a list has no password yet.
  const right = await verify(passwordHash || (await nobody), password);
  return right && Boolean(passwordHash);
}

/** What follows the first characters makes a password no weaker. */
const looked = 64;

/** The lists of common passwords are long: read when nothing else is to be done, or when the first one is chosen. */
async function readLists() {
  const [{ ZxcvbnFactory }, common] = await Promise.all([
    import('@zxcvbn-ts/core'),
    import('@zxcvbn-ts/language-common'),
  ]);
  return new ZxcvbnFactory({ dictionary: common.dictionary, graphs: common.adjacencyGraphs });
}
let lists: ReturnType<typeof readLists> | undefined;

/** Made ready for the first password that is chosen. */
export const prepareForPasswords = () => (lists ??= readLists());

/** @throws Refusal `weakPassword` for a common password, one like the name or e-mail, or one that repeats itself. */
export async function refuseWeakPassword(password: string, whose: { name: string; email: string }): Promise<void> {
  const { name, email } = whose;
  const strength = await prepareForPasswords();
  const [local = ''] = email.split('@');
  const words = [name, email, local, ...`${name} ${email}`.toLowerCase().split(/[^\p{L}\p{N}]+/u), 'nailset'];
  const joined = [name, local].map((text) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ''));
  if (strength.check(password.slice(0, looked), [...words, ...joined].filter(Boolean)).score < 2) {
    throw new Refusal('weakPassword');
  }
}
