import type { Pricer } from '@half-penny/core/billing';
import { headingsFor } from '@half-penny/core/costing';
import type { Id } from '@half-penny/core/model';
import type { Option } from './select';

/** Cost codes to choose for a cost on a project; those that are not for it stand there with the reason. */
export function headingOptions(pricer: Pricer, projectId: Id | null, chosen: Id | null): Option[] {
  const { offered, hidden } = headingsFor(pricer, projectId);
  const name = ({ code, name: called }: { code: string; name: string }) => `${code} ${called}`;
  const kept = hidden.filter(({ costCode }) => costCode.id === chosen).map(({ costCode }) => costCode);
  return [
    ['', 'No cost code'],
    ...[...offered, ...kept].map((code): Option => [code.id, name(code)]),
    ...hidden
      .filter(({ costCode }) => costCode.id !== chosen)
      .map(({ costCode, why }): Option => [costCode.id, `${name(costCode)}, ${why}`, 'not offered']),
  ];
}
