import { expect, type Page } from '@playwright/test';
import { open, ready, till } from './app';

// A workspace on several devices, each a browser of its own.

const dialog = (page: Page) => page.getByRole('dialog', { name: 'Meet a device' });
/** How Setup says that it stands. */
export const state = (page: Page) =>
  page.getByRole('region', { name: 'On several devices' }).getByRole('status').first();

/** Shares the workspace that is open, by way of a relay. */
export async function share(page: Page, relay: string, name: string): Promise<void> {
  await open(page, '/setup/devices');
  await page.getByLabel('Relay').fill(relay);
  await page.getByLabel('This device is called').fill(name);
  await page.getByRole('button', { name: 'Share this workspace' }).click();
  await expect(state(page)).toContainText('All here');
}

/** The device of `guest`, which has nothing, meets that of `host`. */
export async function meet(relay: string, host: Page, guest: Page, name: string): Promise<void> {
  await open(host, '/setup/devices');
  await host.getByRole('button', { name: 'Meet a device' }).click();
  const words = await dialog(host)
    .getByRole('list', { name: 'The twelve words' })
    .getByRole('listitem')
    .allTextContents();
  expect(words).toHaveLength(12);
  await guest.goto('/today');
  await guest.getByRole('button', { name: 'Meet it' }).click();
  await guest.getByLabel('The twelve words').fill(words.map((word) => word.replace(/^\d+/, '')).join(' '));
  await guest.getByLabel('Relay').fill(relay);
  await guest.getByLabel('This device is called').fill(name);
  await guest.getByRole('button', { name: 'Answer' }).click();
  const code = guest.getByRole('status', { name: 'Short code' });
  await expect(code).toHaveText(/^\d{5}( \d{5}){3}$/);
  const other = dialog(host).getByRole('status', { name: 'Short code' });
  await expect(other).toHaveText((await code.textContent())!);
  await dialog(host).getByRole('button', { name: 'The same: let it in' }).click();
  await expect(dialog(host)).toContainText(`“${name}” is let in.`, { timeout: 60_000 });
  await dialog(host).getByRole('button', { name: 'Done' }).click();
  await ready(guest);
  await expect(till(guest)).toBeVisible({ timeout: 60_000 });
}

/** How the shell says that it stands. */
export const mark = (page: Page) => page.getByRole('link', { name: /^Devices: / });
