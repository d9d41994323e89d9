/** Something a rule does to a value: `check` says what is wrong with its arguments, `run` applies it. */
export interface Step {
  help: string;
  check(args: readonly string[]): string | undefined;
  run(text: string, args: readonly string[]): string;
}

const none = (args: readonly string[]): string | undefined =>
  args.length === 0 ? undefined : 'it takes nothing behind its name';
const number = (args: readonly string[]): string | undefined =>
  args.length === 1 && /^\d{1,3}$/.test(args[0]!) ? undefined : 'it takes one whole number behind its name';

/** The steps that may follow a field, after `>`. */
export const STEPS: Readonly<{ [name: string]: Step }> = {
  upper: { help: 'CAPITALS', check: none, run: (text) => text.toUpperCase() },
  lower: { help: 'small letters', check: none, run: (text) => text.toLowerCase() },
  words: {
    help: 'words joined by what follows, such as _ or -',
    check: (args) => (args.length <= 1 ? undefined : 'it takes one joining text, or none'),
    run: (text, args) =>
      text
        .trim()
        .split(/\s+/)
        .join(args[0] ?? ''),
  },
  pad: {
    help: 'zeros in front, up to that many digits',
    check: number,
    run: (text, args) => (text === '' ? '' : text.padStart(Number(args[0]), '0')),
  },
  cut: {
    help: 'the first so many characters',
    check: number,
    run: (text, args) => [...text].slice(0, Number(args[0])).join(''),
  },
  replace: {
    help: 'one text for another',
    check: (args) =>
      args.length === 1 || args.length === 2 ? undefined : 'it takes what to find and what to put there',
    run: (text, args) => text.replaceAll(args[0]!, args[1] ?? ''),
  },
  date: {
    help: 'a date written as YYYY, YY, MM, DD with anything between',
    check: (args) => (args.length >= 1 ? undefined : 'it takes a form such as YYYY-MM-DD'),
    run: (text, args) => {
      const [year, month, day] = text.split('-');
      if (!year || !month || !day) return text;
      return args.join(' ').replace('YYYY', year).replace('YY', year.slice(2)).replace('MM', month).replace('DD', day);
    },
  },
  ascii: {
    help: 'plain letters without accents; Greek and Cyrillic in Latin ones',
    check: none,
    run: (text) =>
      [...text.normalize('NFD')]
        .map((c) => PLAIN[c] ?? c)
        .join('')
        .replace(/[^\x20-\x7e]/g, ''),
  },
};

/** Letters of two scripts side by side with Latin ones; those with several have them between spaces. */
function inLatin(letters: string, latin: string): [string, string][] {
  const plain = latin.split(' ');
  return [...letters].flatMap((letter, i): [string, string][] => {
    const to = plain[i]!;
    return [
      [letter, to],
      [letter.toUpperCase(), to.charAt(0).toUpperCase() + to.slice(1)],
    ];
  });
}

const PLAIN: Readonly<{ [letter: string]: string }> = {
  // As in ISO 843 type 2, letter by letter (from memory).
  ...Object.fromEntries(inLatin('αβγδεζηθικλμνξοπρστυφχψω', 'a v g d e z i th i k l m n x o p r s t y f ch ps o')),
  ς: 's',
  // Common practice for names in Latin letters; й and ё come as и and е with a mark, which is dropped.
  ...Object.fromEntries(
    inLatin(
      'абвгдежзиклмнопрстуфхцчшщыэюяієґ',
      'a b v g d e zh z i k l m n o p r s t u f kh ts ch sh shch y e yu ya i ye g',
    ),
  ),
  ß: 'ss',
  æ: 'ae',
  Æ: 'AE',
  œ: 'oe',
  Œ: 'OE',
  ø: 'o',
  Ø: 'O',
  đ: 'd',
  Đ: 'D',
  ł: 'l',
  Ł: 'L',
  þ: 'th',
  Þ: 'TH',
  '–': '-',
  '—': '-',
};
