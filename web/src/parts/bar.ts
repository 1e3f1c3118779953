/** What can be done with rows: over the Till, in view however long the list is. */
export const barLook =
  'sticky bottom-0 z-20 -mx-2 mt-4 flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-strong bg-sheet px-4 py-2 text-sm max-md:bottom-[136px] md:max-lg:bottom-16 print:hidden';

/** The same where nothing is ticked: on a phone it then stands under the list, since there is little room. */
export const quietBarLook = `${barLook} max-md:static`;
