import { defineConfig } from '@playwright/test';
import tests from './playwright.config';

/** Takes the pictures; not part of the tests. */
export default defineConfig({ ...tests, testDir: './shots', workers: 1, reporter: 'list' });
