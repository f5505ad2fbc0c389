import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

/** scrypt with N = 2^15, r = 8, p = 3: one of the settings of the OWASP Password Storage Cheat Sheet. */
const COST = { N: 2 ** 15, r: 8, p: 3, maxmem: 64 * 1024 * 1024 };
const KEY_BYTES = 32;

const keyOf = (password: string, salt: Buffer): Promise<Buffer> =>
  new Promise((done, failed) =>
    scrypt(password.normalize('NFC'), salt, KEY_BYTES, COST, (error, key) => (error ? failed(error) : done(key))),
  );

/** A password as it is kept: salt and key in base 64. */
export async function hashed(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt:${salt.toString('base64')}:${(await keyOf(password, salt)).toString('base64')}`;
}

/** Whether a password is the one that was kept. Takes as long where none was: nobody learns by the clock who works here. */
export async function isPassword(password: string, kept: string | undefined): Promise<boolean> {
  const [, salt, key] = (kept ?? `scrypt:${'A'.repeat(22)}==:${'A'.repeat(43)}=`).split(':');
  const found = await keyOf(password, Buffer.from(salt, 'base64'));
  const isSame = timingSafeEqual(found, Buffer.from(key, 'base64'));
  return isSame && kept !== undefined;
}
