// After the build: a service worker that keeps the whole application for use without a network.
import { generateSW } from 'workbox-build';
import { fileURLToPath } from 'node:url';

const dist = fileURLToPath(new URL('./dist', import.meta.url));
const { count, warnings } = await generateSW({
  globDirectory: dist,
  globPatterns: ['**/*.{html,js,css,svg,png,woff,woff2,webmanifest}'],
  globIgnores: ['sw.js', 'workbox-*.js'],
  swDest: `${dist}/sw.js`,
  navigateFallback: '/index.html',
  navigateFallbackDenylist: [/^\/api\//],
  cleanupOutdatedCaches: true,
  clientsClaim: true,
  // A new version waits until the old one's tabs are closed: they may still need parts of it.
  skipWaiting: false,
  sourcemap: false,
  maximumFileSizeToCacheInBytes: 8_000_000,
});
for (const warning of warnings) console.warn(warning);
console.log(`offline: ${count} files`);
