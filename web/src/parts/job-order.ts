import type { Member } from '@half-penny/core/model';
import { createContext } from 'react';

/** Whether jobs are shown by client or by project first, as the member likes it. */
export const JobOrder = createContext<Member['jobOrder']>('project first');
