import { fileURLToPath } from 'node:url';
import { build } from 'vite';

const NAME = 'virtual:client-page-script';
const entry = fileURLToPath(new URL('../documents/src/client-page/in-browser.ts', import.meta.url));

let built;

/** The script of a client's page in one piece, which can end no element that it stands in. */
async function pageScript() {
  const { output } = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      target: 'es2022',
      lib: { entry, formats: ['es'] },
    },
  }).then((result) => (Array.isArray(result) ? result[0] : result));
  return output[0].code.trim().replaceAll('</', '<\\/');
}

/** Gives what is built of the page's own script as a text, wherever the program is built or tested. */
export const clientPageScript = () => ({
  name: 'client-page-script',
  resolveId: (source) => (source === NAME ? `\0${NAME}` : null),
  async load(id) {
    if (id !== `\0${NAME}`) return null;
    built ??= pageScript();
    return `export default ${JSON.stringify(await built)}`;
  },
});
