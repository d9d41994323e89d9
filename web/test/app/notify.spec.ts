const shown: string[] = [];

/** What browsers have and jsdom does not; a person answers as told. */
function browserThat(answers: NotificationPermission): typeof import('../../src/ui/notify') {
  class Shown {
    static permission: NotificationPermission = 'default';
    static requestPermission = () => Promise.resolve(answers);
    constructor(_title: string, { body }: { body: string }) {
      shown.push(body);
    }
  }
  Object.assign(globalThis, { Notification: Shown });
  jest.resetModules();
  return jest.requireActual('../../src/ui/notify');
}

const looking = jest.spyOn(document, 'hidden', 'get');
beforeEach(() => void (shown.length = 0));
afterAll(() => Reflect.deleteProperty(globalThis, 'Notification'));

it('shows a notice outside the browser once that is allowed, and only while its page is not looked at', async () => {
  const { askToNotify, mayAskToNotify, notify } = browserThat('granted');
  looking.mockReturnValue(true);
  notify('too early');
  expect(mayAskToNotify()).toBe(true);
  await askToNotify();
  expect(mayAskToNotify()).toBe(false);
  notify('Permit set is published.');
  looking.mockReturnValue(false);
  notify('seen anyway');
  expect(shown).toEqual(['Permit set is published.']);
});

it('shows none where that is refused, and does not ask again', async () => {
  const { askToNotify, mayAskToNotify, notify } = browserThat('denied');
  looking.mockReturnValue(true);
  await askToNotify();
  notify('Permit set is published.');
  expect([shown, mayAskToNotify()]).toEqual([[], false]);
});
