import { messageOf } from '@half-penny/core/model';
import { showFault, WorkspaceFileError } from '@half-penny/formats/workspace';
import { check, showInvoice, showToBill, writeDemo } from './commands';
import { sealed } from './sealed';
import { pack, unpack } from './unpack';
import { usage, UsageError } from './usage';

const commands: Record<string, (args: readonly string[], print: (line: string) => void) => Promise<void>> = {
  check,
  'to-bill': showToBill,
  invoice: showInvoice,
  demo: writeDemo,
  unpack,
  pack,
  sealed,
};

// Whoever reads what is printed may stop reading, as `head` does: that is no fault.
process.stdout.on('error', (thrown: NodeJS.ErrnoException) => {
  if (thrown.code !== 'EPIPE') throw thrown;
  process.exit(0);
});

const [name = '', ...args] = process.argv.slice(2);
try {
  if (name === '--help' || name === 'help') console.log(usage);
  else {
    const run = Object.hasOwn(commands, name) ? commands[name] : undefined;
    if (!run) throw new UsageError(name ? `There is no command “${name}”.` : 'Say what to do.');
    await run(args, (line) => console.log(line));
  }
} catch (thrown) {
  if (thrown instanceof UsageError) {
    console.error(`${thrown.message}\n\n${usage}`);
    process.exitCode = 2;
  } else {
    if (thrown instanceof WorkspaceFileError) {
      for (const fault of thrown.faults) console.error(showFault(fault));
      if (thrown.count > thrown.faults.length) console.error(`and ${thrown.count - thrown.faults.length} more`);
    } else console.error(messageOf(thrown));
    process.exitCode = 1;
  }
}
