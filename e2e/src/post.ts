import { existsSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { secretOf, serverFolder } from './address';
import { expect, open, ready } from './app';

/** Opens the address that the server printed, so that it knows the page. */
export async function connected(page: Page): Promise<void> {
  await page.goto(`/today#${secretOf(serverFolder())}`);
  await ready(page);
}

/** The letters that the simulated post took, as files. */
export function lettersIn(): string[] {
  const inbox = join(serverFolder(), 'inbox');
  const names = existsSync(inbox) ? readdirSync(inbox).sort() : [];
  return names.map((name) => join(inbox, name));
}

/** Has letters go to the box on this machine; another test may have done so already. */
export async function postSimulated(page: Page): Promise<void> {
  await open(page, '/setup/post');
  const simulate = page.getByRole('button', { name: 'Try without one' });
  const simulated = page.getByText('nowhere else');
  await expect(simulate.or(simulated)).toBeVisible();
  if (await simulate.isVisible()) await simulate.click();
  await expect(simulated).toBeVisible();
}

/** Has payments online simulated. */
export async function payingSimulated(page: Page): Promise<void> {
  await open(page, '/setup/invoicing');
  const simulate = page.getByRole('button', { name: 'Simulate payments' });
  const stop = page.getByRole('button', { name: 'Stop simulating payments' });
  await expect(simulate.or(stop)).toBeVisible();
  if (await simulate.isVisible()) await simulate.click();
  await expect(stop).toBeVisible();
}

/** What was paid and opened on the server so far is forgotten: the next test has the same invoices. */
export function forgetTold(): void {
  for (const name of ['pay/told.json', 'pay/payments.json', 'pages/told.json'])
    rmSync(join(serverFolder(), name), { force: true });
}

/** Opens the page of what is on the screen as its client would, on this machine. */
export async function asClient(page: Page): Promise<Page> {
  await page.getByRole('button', { name: 'Client’s page' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Try it on this machine' }).click();
  const [client] = await Promise.all([
    page.context().waitForEvent('page'),
    dialog.getByRole('link', { name: 'Open it as the client would' }).click(),
  ]);
  await page.keyboard.press('Escape');
  return client;
}
