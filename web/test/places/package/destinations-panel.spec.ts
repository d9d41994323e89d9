import type { PackageChange } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { DestinationsPanel } from '../../../src/places/package/delivery/destinations-panel';
import { choose } from '../../support/panels';
import { all, show, text } from '../../support/parts';

const folder: Destination = { kind: 'folder', folder: 'out', onConflict: 'stop' };
const server: Destination = { kind: 'server', server: 's', folder: 'in', onConflict: 'both' };

async function shown(destinations: Destination[], where: string[] = []) {
  const fixture = await show(DestinationsPanel, { destinations, where, plots: [] });
  const changes: PackageChange[] = [];
  fixture.componentInstance.changed.subscribe((change) => changes.push(change));
  const press = (words: string): void =>
    all(fixture, 'button')
      .find((button) => button.textContent!.includes(words))!
      .click();
  return { fixture, changes, press };
}

it('has a form to choose the first destination, and none to add before that', async () => {
  const { fixture, changes } = await shown([]);
  expect(text(fixture)).toContain('Download');
  expect(text(fixture)).not.toContain('Another destination');
  await choose(fixture, 'Destination', 'Folder on the server');
  expect(changes).toEqual([{ destinations: [expect.objectContaining({ kind: 'folder' })] }]);
});

it('adds destinations to the first, and removes each', async () => {
  const { fixture, changes, press } = await shown([folder, server], ['/out', 'It is away.']);
  expect(text(fixture)).toMatch(/\/out.*It is away\./);
  press('Another destination');
  press('Remove destination 1');
  press('Remove destination 2');
  expect(changes).toEqual([
    { destinations: [folder, server, expect.objectContaining({ kind: 'server', server: '' })] },
    { destinations: [server] },
    { destinations: [folder] },
  ]);
});

it('downloads again where the only one is taken away, and takes no more than ten', async () => {
  const { fixture, changes } = await shown([folder]);
  await choose(fixture, 'Destination', 'Download');
  expect(changes).toEqual([{ destinations: null }]);
  fixture.componentRef.setInput('destinations', Array<Destination>(10).fill(folder));
  await fixture.whenStable();
  expect(text(fixture)).not.toContain('Another destination');
});
