import { defineConfig } from 'vitest/config';
import { clientPageScript } from './scripts/client-page-script.mjs';

// Long, for a machine that others keep busy: what passes does not wait.
const timeouts = { testTimeout: 180_000, hookTimeout: 180_000 };

export default defineConfig({
  test: {
    projects: [
      {
        plugins: [clientPageScript()],
        // They keep nothing outside themselves, so their modules are read once for all of them: reading took longer than testing.
        test: {
          name: 'pure',
          include: ['{core,formats,documents,demo}/src/**/*.test.{ts,tsx}'],
          pool: 'threads',
          isolate: false,
          ...timeouts,
        },
      },
      {
        test: {
          name: 'rooms',
          include: [
            '{web,server,relay,agent,extension,cli,bench,trials,e2e}/src/**/*.test.{ts,tsx}',
            'scripts/**/*.test.ts',
          ],
          ...timeouts,
        },
      },
    ],
  },
});
