import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

// 32 MiB per guess (RFC 7914): N=2^15, r=8, p=1.
const COST = { N: 32_768, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

function derive(password: string, salt: Buffer): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, 32, COST, (problem, key) => (problem ? reject(problem) : resolve(key)));
  });
}

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${salt.toString('hex')}$${(await derive(password, salt)).toString('hex')}`;
}

/** With no hash (unknown account) the same work is done, so that the time tells nothing. */
export async function passwordFits(password: string, hash: string | null): Promise<boolean> {
  const [, salt = '00', key = ''] = (hash ?? 'scrypt$00$').split('$');
  const derived = await derive(password, Buffer.from(salt, 'hex'));
  const known = Buffer.from(key, 'hex');
  return known.length === derived.length && timingSafeEqual(known, derived);
}

export const newSecret = (): string => randomBytes(32).toString('base64url');
export const hashSecret = (secret: string): string => createHash('sha256').update(secret).digest('hex');
