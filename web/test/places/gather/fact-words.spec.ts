import { factInWords } from '../../../src/places/gather/drawing/fact-words';

it.each([
  ['Length', 16_400, 'mm', '16400 mm'],
  ['Radius', 1.23456, 'm', '1.235 m'],
  ['Area', 2.5, 'm', '2.5 m²'],
  ['Area', 2.5, '', '2.5'],
  ['Length', 7, '', '7'],
  ['Angle', 90, 'mm', '90°'],
  ['Vertices', 4, 'mm', '4'],
  ['Block', 'DOOR', 'mm', 'DOOR'],
])('%s %s in a drawing in %s is %s', (name, value, unit, words) => {
  expect(factInWords(name, value, unit)).toBe(words);
});
