import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { Printer } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from './button';

/** Whose time a printed page shows, and of which days; on the screen that is known. */
export const PrintHead = ({ pricer, member, children }: { pricer: Pricer; member: Member; children: ReactNode }) => (
  <p className="mb-3 hidden text-sm text-soft print:block">
    {pricer.book.workspace.name} · {member.name} · {children}
  </p>
);

/** Prints what the sheet holds as a page. */
export const PrintButton = ({ of }: { of: string }) => (
  <Button aria-label={`Print ${of}`} title={`Print ${of}`} onClick={() => window.print()}>
    <Printer size={16} aria-hidden />
  </Button>
);
