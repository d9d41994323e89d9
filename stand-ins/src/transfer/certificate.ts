import { createHash, X509Certificate } from 'node:crypto';
import { generate } from 'selfsigned';

/** Key and certificate (PEM) of a server on loopback, which nobody vouches for. */
export interface Certificate {
  key: string;
  cert: string;
  /** SHA-256 of it, as OpenSSH prints those of host keys. */
  fingerprint: string;
}

export async function newCertificate(): Promise<Certificate> {
  const { private: key, cert } = await generate([{ name: 'commonName', value: 'stand-in' }]);
  const hash = createHash('sha256').update(new X509Certificate(cert).raw).digest('base64');
  return { key, cert, fingerprint: `SHA256:${hash.replace(/=+$/, '')}` };
}
