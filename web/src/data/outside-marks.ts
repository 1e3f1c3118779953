import type { Pricer } from '@half-penny/core/billing';
import type { OutsideMark } from '@half-penny/core/capture';
import type { Reader } from '@half-penny/core/engine';
import { useRead } from './read';

/** "GAL-21 Lux readings": a task that is called by its number, as those that follow others are, in a member's workspace as well. */
const NUMBERED = /^[\p{Lu}][\p{Lu}\p{N}]{0,9}-\d{1,8}(?=\s|$)/u;

/** Open tasks that follow others from elsewhere or are numbered, by what they are known in titles and addresses. */
export async function readOutsideMarks(reader: Reader, pricer: Pricer): Promise<OutsideMark[]> {
  const followed = new Map(
    (await reader.all('outsideTasks')).flatMap((row) => (row.taskId ? [[row.taskId, row]] : [])),
  );
  return pricer.book.tasks.flatMap(({ id: taskId, projectId, finished, name }) => {
    const { closed = false, address = '', number = NUMBERED.exec(name)?.[0] ?? '' } = followed.get(taskId) ?? {};
    if (projectId === null || finished || closed || (number === '' && address === '')) return [];
    return [{ taskId, projectId, number, address }];
  });
}

/** The same, followed; undefined while it is read. */
export const useOutsideMarks = (pricer: Pricer): OutsideMark[] | undefined =>
  useRead((reader) => readOutsideMarks(reader, pricer), [pricer]);
