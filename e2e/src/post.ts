import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { secretOf, serverFolder } from './address';
import { ready } from './app';

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
