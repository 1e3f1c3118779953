export const usage = `Usage: npm run -s half-penny -- <command>

  check FILE [--head HEAD]                validate a workspace file: records, invariants, papers, hash chains, and
                                          that the history made the records and ends with HEAD
  to-bill FILE [--client NAME] [--json]   what is to bill, by client
  invoice FILE --number N [--json | --pdf OUT]
                                          one issued invoice
  demo OUT [--seed N] [--now ISO] [--large]
                                          write the demo studio as a workspace file
  unpack FILE DIR                         write the parts of a workspace file into a folder
  pack DIR FILE [--base REASON]           make a workspace file of such a folder; with a reason the history begins
                                          again with the records as they are
  sealed FILE [--workspace FILE [--passphrase FILE]]
                                          what a sealed file or invitation is and for whom; with a workspace file that
                                          keeps its keys, and a file with their passphrase, that it is sound, who
                                          signed it, and what is in it

With --json, amounts are integers of minor units with their currency and lengths are in seconds.
Exit status: 0 fine, 1 a faulty file or nothing found, 2 wrong arguments.`;

/** Arguments that make no sense: usage on standard error, exit 2. */
export class UsageError extends Error {}

export interface Arguments {
  positional: string[];
  options: Map<string, string>;
  flags: Set<string>;
}

/**
 * Splits arguments into positional ones, options with a value and flags.
 *
 * @throws UsageError for an option that is not allowed, is given twice or lacks its value, or a wrong number of positional ones
 */
export function parse(
  args: readonly string[],
  allowed: { positional: number; options?: string[]; flags?: string[] },
): Arguments {
  const parsed: Arguments = { positional: [], options: new Map(), flags: new Set() };
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (!arg.startsWith('--')) {
      parsed.positional.push(arg);
      continue;
    }
    const [name, inline] = arg.slice(2).split(/=(.*)/s) as [string, string?];
    if (parsed.options.has(name) || parsed.flags.has(name)) throw new UsageError(`--${name} is given twice.`);
    if (allowed.flags?.includes(name) && inline === undefined) parsed.flags.add(name);
    else if (allowed.options?.includes(name)) {
      const value = inline ?? args[++i];
      if (value === undefined || (inline === undefined && value.startsWith('--')))
        throw new UsageError(`--${name} needs a value.`);
      parsed.options.set(name, value);
    } else throw new UsageError(`There is no option --${name} here.`);
  }
  const { positional } = parsed;
  if (positional.length !== allowed.positional) {
    throw new UsageError(
      `Expected ${allowed.positional} ${allowed.positional === 1 ? 'file' : 'paths'}, got ${positional.length}.`,
    );
  }
  return parsed;
}
