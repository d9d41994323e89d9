import { createHash } from 'node:crypto';
import { digestIn, hashCommandFrom, hashIn, refuseMismatch } from '../../src/destinations/reported-hash';
import { sha256 } from '../../src/files/whole-file';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ownFolder } from '../support/published';

const work = ownFolder();

describe('a hash that a destination reports', () => {
  it('is found in the reply of an FTP server', () => {
    // The form of an answer: draft-ietf-ftpext2-hash-03, 3.2 (from memory).
    const sha1 = createHash('sha1').update('sheet').digest('hex');
    expect(hashIn(`213 SHA-1 0-49 ${sha1.toUpperCase()} filename.ext`, 'SHA-1')).toEqual({
      algorithm: 'SHA-1',
      hex: sha1,
    });
    // Not a part of a longer one.
    expect(hashIn(`250 ${sha256('sheet')}`, 'MD5')).toBeUndefined();
  });

  it('is asked for by HASH with the preferred algorithm, else by an older command', () => {
    const asked = (...features: [string, string][]) => hashCommandFrom(new Map(features));
    expect(asked(['HASH', 'SHA-1;MD5*;SHA-256'], ['XMD5', ''])).toEqual({
      ...{ algorithm: 'SHA-256', verb: 'HASH', choice: 'OPTS HASH SHA-256' },
    });
    expect(asked(['XMD5', ''], ['XSHA1', ''])).toEqual({ algorithm: 'SHA-1', verb: 'XSHA1' });
    expect(asked(['HASH', 'CRC32'], ['MDTM', ''])).toBeUndefined();
  });

  it('is found in HTTP headers, the preferred one of several', () => {
    // The content `{"hello": "world"}`, with a line feed, and its SHA-256: RFC 9530, appendix B.
    const hex = createHash('sha256').update('{"hello": "world"}\n').digest('hex');
    const digest = 'RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=';
    expect(digestIn(`sha-256=:${digest}:`)).toEqual({ algorithm: 'SHA-256', hex });
    expect(digestIn(`SHA-256=${digest}`)).toEqual({ algorithm: 'SHA-256', hex });
    const md5 = createHash('md5').update('x').digest('base64');
    expect(digestIn(`md5=:${md5}:, sha-256=:${digest}:`)).toMatchObject({ algorithm: 'SHA-256' });
    expect(digestIn('sha-256=:RK/0:')).toBeUndefined();
    expect(digestIn('unixsum=30637')).toBeUndefined();
  });

  it('must match the file that was sent, whatever its algorithm', async () => {
    const from = join(work, 'a.pdf');
    writeFileSync(from, 'sheet');
    const file = { from, hash: sha256('sheet'), path: 'a.pdf' };
    const md5 = createHash('md5').update('sheet').digest('hex');
    await refuseMismatch(undefined, file);
    await refuseMismatch({ algorithm: 'MD5', hex: md5 }, file);
    await expect(refuseMismatch({ algorithm: 'MD5', hex: md5.replace(/^./, 'x') }, file)).rejects.toThrow(
      'its MD5 at the destination does not match',
    );
  });
});
