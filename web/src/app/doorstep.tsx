import type { ReactNode } from 'react';

/** A page before there is a workspace to show: the head of the house, and what can be done. */
export function Doorstep({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto min-h-full max-w-3xl bg-sheet px-5 py-8">
      <p className="mb-6 flex items-center gap-2 font-bold">
        <img src="/coin.svg" alt="" width={22} height={22} /> Half Penny
      </p>
      <h1 className="mb-3 text-title font-bold">{title}</h1>
      {children}
    </main>
  );
}
