import { linkAnnotation } from '../../src/pdf/links';

describe('the address of a link', () => {
  const addressOf = (url: string): string | undefined =>
    /\/URI \((.*)\) >>/.exec(linkAnnotation([0, 0, 1, 1], { kind: 'address', url }, 'none'))?.[1];

  // RFC 3986, 2.5: characters beyond ASCII as the bytes of their UTF-8, in percents.
  it.each([
    ['https://quay.example/plan', 'https://quay.example/plan'],
    ['https://quay.example/Größe', 'https://quay.example/Gr%C3%B6%C3%9Fe'],
    ['https://quay.example/⛴️/😀', 'https://quay.example/%E2%9B%B4%EF%B8%8F/%F0%9F%98%80'],
    ['https://quay.example/half\ud83d', 'https://quay.example/half%EF%BF%BD'],
    ['https://quay.example/(a)\\b', 'https://quay.example/\\(a\\)\\\\b'],
  ])('is ASCII: %s', (url, wanted) => {
    expect(addressOf(url)).toBe(wanted);
  });
});
