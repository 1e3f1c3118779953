import type { ComponentProps, ReactNode } from 'react';

type ButtonProps = ComponentProps<'button'> & {
  /** The one main action of a screen, an ordinary one, or one that stands in a line of text. */
  kind?: 'main' | 'plain' | 'quiet' | 'fault';
  /** The key that does the same, printed on the button. */
  shortcut?: string;
  icon?: ReactNode;
};

const looks = {
  main: 'bg-time text-on-time border-time font-semibold hover:brightness-110',
  plain: 'bg-sheet text-ink border-strong hover:bg-time-ground',
  quiet: 'border-transparent text-time underline-offset-2 hover:underline px-1! py-0! min-h-6! max-md:min-h-11!',
  fault: 'bg-sheet text-fault border-fault hover:bg-attention-ground',
};

export function Button({ kind = 'plain', shortcut, icon, className = '', children, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      data-main={kind === 'main' || undefined}
      className={`inline-flex min-h-8 max-md:min-h-11 max-md:min-w-11 max-md:justify-center items-center gap-2 rounded-md border px-3 py-1 text-base whitespace-nowrap disabled:opacity-50 ${looks[kind]} ${className}`}
      aria-keyshortcuts={shortcut}
      {...rest}
    >
      {icon}
      {children}
      {shortcut && <Key on={kind === 'main'}>{shortcut}</Key>}
    </button>
  );
}

/** A key as printed on buttons and in the list of keys. */
export function Key({ children, on = false }: { children: ReactNode; on?: boolean }) {
  return (
    <kbd
      aria-hidden
      className={`rounded-sm border px-1 font-mono text-xs leading-4 max-md:hidden ${on ? 'border-on-time/60 text-on-time' : 'border-strong text-soft'}`}
    >
      {children}
    </kbd>
  );
}
