import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless';

setupZonelessTestEnv();

// What jsdom does not have and components ask for.
class NoObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}
Object.assign(globalThis, {
  IntersectionObserver: NoObserver,
  ResizeObserver: NoObserver,
  matchMedia: () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
    // The breakpoints of the CDK use the old names.
    addListener: () => undefined,
    removeListener: () => undefined,
  }),
});
