import type { LookingAt, PlacingRule } from '@half-penny/core/capture';

/** The condition of a rule that catches a row of a list; null of rows that are jobs. */
export function conditionOf(by: LookingAt, key: string): PlacingRule['when'] | null {
  switch (by) {
    case 'program':
      return { field: 'program', verb: 'is', text: key };
    case 'site':
      return { field: 'site', verb: 'is', text: key };
    case 'document':
      return { field: 'file', verb: 'is', text: key };
    case 'folder':
      return { field: 'folder', verb: 'begins with', text: key };
    case 'person':
      return { field: 'people', verb: 'has', text: key };
    case 'word':
      return { field: 'title', verb: 'has', text: key };
    default:
      return null;
  }
}
