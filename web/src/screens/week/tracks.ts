/** The columns of the week: jobs, seven days, together. */
export const weekTracks =
  'grid grid-cols-[minmax(170px,1.7fr)_repeat(7,minmax(74px,1fr))_104px] print:grid-cols-[minmax(150px,1.7fr)_repeat(7,minmax(0,1fr))_96px]';
