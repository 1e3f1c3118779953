/** What can be measured, each by itself: a short word, and what runs it. */
export const parts: Readonly<Record<string, () => Promise<void>>> = {
  load: async () => (await import('./load')).benchLoad(),
  commands: async () => (await import('./commands')).benchCommands(),
  draft: async () => (await import('./draft')).benchDraft(),
  billing: async () => (await import('./billing')).benchBilling(),
  rates: async () => (await import('./rates')).benchRates(),
  file: async () => (await import('./file')).benchFile(),
  reports: async () => (await import('./reports')).benchReports(),
  activity: async () => (await import('./activity')).benchActivity(),
  proposals: async () => (await import('./proposals')).benchProposals(),
  capture: async () => (await import('./capture')).benchCapture(),
  durability: async () => (await import('./durability')).benchDurability(),
  receipts: async () => (await import('./receipts')).benchReceipts(),
  relay: async () => (await import('./relay')).benchRelay(),
  large: async () => (await import('./large')).benchLarge(),
};
