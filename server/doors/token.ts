/** What opens a door: 256 bits by chance, of which only the digest is stored. */
import { createHash, randomBytes } from 'node:crypto';

export const newToken = (): string => randomBytes(32).toString('base64url');

/** Long and by chance, so that a plain digest cannot be turned round (OWASP ASVS 4.0, 2.9 and 3.2). */
export const digest = (token: string): Buffer => createHash('sha256').update(token).digest();
