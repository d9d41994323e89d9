import { expect } from '@playwright/test';
import { ownerPage, pageOf, PASSWORD, test } from './office';

test('an office is owned, invites a reader, keeps an audit, and lets nobody else in', async ({ browser, office }) => {
  const nobody = await pageOf(browser, office.address);
  await nobody.goto('/');
  await expect(nobody.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  const owner = await ownerPage(browser, office);
  await owner.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click();
  await owner.getByRole('link', { name: 'Settings', exact: true }).click();
  await owner.getByRole('button', { name: 'Members' }).click();
  await owner.getByLabel('Email').fill('rut@office.example');
  await owner.getByRole('combobox', { name: 'Role' }).click();
  await owner.getByRole('option', { name: 'Reader' }).click();
  await owner.getByRole('button', { name: 'Invite', exact: true }).click();
  const link = await owner.getByText(`${office.address}/join/`).innerText();

  const reader = await pageOf(browser, office.address);
  await reader.goto(link);
  await expect(reader.getByText('You can view and download everything.')).toBeVisible();
  await reader.getByLabel('Your name').fill('Rut Lund');
  await reader.getByLabel('Password').fill(PASSWORD);
  await reader.getByRole('button', { name: 'Join' }).click();
  await reader.getByRole('link', { name: 'Open Tern Quay Ferry Terminal' }).click();
  await expect(reader.getByText('Read only')).toBeVisible();
  await reader.getByRole('link', { name: 'Settings', exact: true }).click();
  await reader.getByLabel('Client').fill('Somebody else');
  await reader.getByLabel('Client').press('Enter');
  await expect(
    reader.getByText('This needs the drafter role in the project; ask a project lead for it.'),
  ).toBeVisible();
  await expect(reader.getByRole('button', { name: 'Audit' })).toBeHidden();

  await owner.getByRole('button', { name: 'Audit' }).click();
  const audit = owner.getByRole('table', { name: 'Audit' });
  await expect(audit.getByRole('row').filter({ hasText: 'Rut Lund' })).toContainText(
    'Accepted an invitation: as reader',
  );
  await owner.getByRole('link', { name: 'Account' }).click();
  await owner.getByRole('button', { name: 'Sign out' }).click();
  await expect(owner.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await owner.getByLabel('Email').fill('Oda@office.example');
  await owner.getByLabel('Password').fill('not this one at all');
  await owner.getByRole('button', { name: 'Sign in' }).click();
  await expect(owner.getByText('The email address or the password is wrong.')).toBeVisible();
  await owner.getByLabel('Password').fill(PASSWORD);
  await owner.getByRole('button', { name: 'Sign in' }).click();
  await expect(owner.getByRole('heading', { name: 'Projects' })).toBeVisible();
});
