import { numbers } from './numbers';

/** One damaged copy of a text file: bytes flipped, lines doubled, cut, swapped or given values that no one would draw. */
export function mutated(text: string, seed: number): Uint8Array {
  const next = numbers(seed);
  const lines = text.split('\n');
  const at = (): number => Math.floor(next() * lines.length);
  const strange = [
    '1e308',
    '-1',
    '0',
    'NaN',
    '99999999999',
    '',
    '\u0000',
    '-0.0',
    '2147483648',
    '1e-320',
    'ENDSEC',
    'é'.repeat(300),
  ];
  for (let i = 1 + Math.floor(next() * 12); i > 0; i--) {
    const [from, to] = [at(), at()];
    switch (Math.floor(next() * 6)) {
      case 0:
        lines[from] = strange[Math.floor(next() * strange.length)]!;
        break;
      case 1:
        lines.splice(Math.min(from, to), Math.floor(next() * 40));
        break;
      case 2:
        lines.splice(to, 0, ...lines.slice(from, from + Math.floor(next() * 40)));
        break;
      case 3:
        [lines[from], lines[to]] = [lines[to]!, lines[from]!];
        break;
      case 4:
        lines[from] = String(Math.floor(next() * 1100));
        break;
      default:
        lines.length = Math.max(4, from);
    }
  }
  const bytes = new TextEncoder().encode(lines.join('\n'));
  for (let i = Math.floor(next() * 4); i > 0; i--) bytes[Math.floor(next() * bytes.length)] = Math.floor(next() * 256);
  return bytes;
}
