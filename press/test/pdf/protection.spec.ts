import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { lockFor, protectionOf } from '../../src/index';
import { tool } from '../support/published';
import { linksOf, sheet, written } from '../support/written';

describe('protection', () => {
  const sheets = [{ sheet: sheet('a', 'A-101'), texts: ['Secret hall'] }];
  const files = [{ path: 'locked.pdf', sheets: ['a'] }];
  const allowed = { print: true, change: false, copy: false };

  it('opens with the right password and refuses the wrong one, by qpdf, poppler and pdf.js', async () => {
    const protection = protectionOf(lockFor({ open: 'Möwe 7', change: 'owner' }, allowed));
    const [path] = await written({ sheets, files, protection });
    for (const password of ['Möwe 7', 'owner']) {
      expect(tool('qpdf', `--password=${password}`, '--check', path!)).toContain('No syntax or stream encoding errors');
      expect(tool('pdftotext', '-upw', password, '-opw', password, path!, '-')).toContain('Secret hall');
    }
    for (const wrong of ['', 'Mowe 7']) {
      expect(() => execFileSync('qpdf', [`--password=${wrong}`, '--check', path!], { stdio: 'pipe' })).toThrow(
        /invalid password/,
      );
    }
    await expect(linksOf(path!, 1, 'wrong')).rejects.toThrow(/[Pp]assword/);
    await expect(linksOf(path!, 1, 'Möwe 7')).resolves.toEqual([]);
    expect(readFileSync(path!, 'latin1')).not.toContain('Secret');
  });

  it('says what is allowed, in AES with 256 bits', async () => {
    const [path] = await written({
      sheets,
      files,
      protection: protectionOf(lockFor({ open: '', change: 'owner' }, allowed)),
    });
    const told = tool('qpdf', '--show-encryption', path!);
    expect(told).toContain('R = 6');
    expect(told).toContain('print low resolution: allowed');
    expect(told).toContain('print high resolution: allowed');
    expect(told).toContain('extract for any purpose: not allowed');
    expect(told).toContain('modify document assembly: not allowed');
    expect(told).toContain('stream encryption method: AESv3');
  });

  it('gives the same bytes for the same lock, and keeps no password in it', async () => {
    const lock = lockFor({ open: 'open-sesame', change: 'owner-word' }, allowed);
    expect(JSON.stringify(lock)).not.toMatch(/open-sesame|owner-word/);
    const read = async (): Promise<Buffer> =>
      readFileSync((await written({ sheets, files, protection: protectionOf(lock) }))[0]!);
    expect((await read()).equals(await read())).toBe(true);
  });
});
