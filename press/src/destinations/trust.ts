import { createHash, X509Certificate } from 'node:crypto';
import type { ConnectionOptions, TLSSocket } from 'node:tls';
import { StepFailed, type TransferLogin } from './transfer-login';

/** Fingerprint of a host key or certificate, in the form in which OpenSSH prints that of a key. */
export function fingerprintOf(bytes: Uint8Array): string {
  return `SHA256:${createHash('sha256').update(bytes).digest('base64').replace(/=+$/, '')}`;
}

/** The step at which a server shows something else than what was accepted; nobody signs in to it. */
export function notAccepted(
  what: 'host key' | 'certificate',
  { name, fingerprint }: TransferLogin,
  shown: string,
): StepFailed {
  const sentence =
    fingerprint !== null
      ? `${name} shows another ${what} than the accepted one: ${shown}. Someone may be intercepting the connection; ask its operator before you accept it.`
      : what === 'host key'
        ? `${name} shows the host key ${shown}. Compare it with the one its operator gives you, then accept it.`
        : `${name} shows a certificate that this machine does not trust: ${shown}. Compare it with the one its operator gives you, then accept it.`;
  return new StepFailed(what, sentence, shown);
}

/** A certificate as it was shown, and whether this machine trusts it for the host. */
export interface ShownCertificate {
  pem: string;
  isTrusted: boolean;
  /** As `openssl x509 -fingerprint -sha256` finds it, in the form of a host key's. */
  fingerprint: string;
}

/** What a server shows at the other end of a connection that was made without asking whether it is trusted. */
export function certificateOf(socket: TLSSocket): ShownCertificate {
  const { raw } = socket.getPeerCertificate();
  return {
    pem: new X509Certificate(raw).toString(),
    isTrusted: socket.authorized,
    fingerprint: fingerprintOf(raw),
  };
}

/**
 * How to connect to a server that shows a certificate. Throws a `StepFailed` where it is neither trusted nor the accepted
 * one.
 */
export function trustOnly(login: TransferLogin, { pem, isTrusted, fingerprint }: ShownCertificate): ConnectionOptions {
  if (isTrusted) return {};
  if (fingerprint !== login.fingerprint) throw notAccepted('certificate', login, fingerprint);
  return { ca: pem, allowPartialTrustChain: true, checkServerIdentity: () => undefined };
}
