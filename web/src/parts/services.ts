import type { Pricer } from '@half-penny/core/billing';
import { recordsKind, servicesFor } from '@half-penny/core/entries';
import type { Id, Member } from '@half-penny/core/model';
import type { Option } from './select';

/** A service and a kind of work inside it, as one choice. */
export interface ServicePick {
  serviceId: Id | null;
  kindOfWorkId: Id | null;
}

/** The value that stands for a choice in a list. */
export const valueOfService = ({ serviceId, kindOfWorkId }: ServicePick): string =>
  kindOfWorkId === null ? (serviceId ?? '') : `${serviceId}/${kindOfWorkId}`;

/** The choice that a value stands for. */
export function serviceOf(value: string): ServicePick {
  const [serviceId, kindOfWorkId] = value.split('/');
  return { serviceId: serviceId || null, kindOfWorkId: kindOfWorkId || null };
}

/**
 * What a list of services offers for a job: those that apply, each followed by its kinds of work, then those that do not with the reason.
 * What is chosen already is always among them.
 */
export function serviceOptions(
  pricer: Pricer,
  member: Member | undefined,
  projectId: Id | null,
  chosen?: ServicePick,
): Option[] {
  const { offered, hidden } = servicesFor(pricer, member, projectId);
  const kept = hidden.filter(({ service }) => service.id === chosen?.serviceId).map(({ service }) => service);
  const options = [...offered, ...kept].flatMap((service): Option[] => [
    [service.id, service.name],
    ...pricer.book.kindsOfWork
      .filter(
        (kind) =>
          kind.serviceId === service.id &&
          (!member || kind.id === chosen?.kindOfWorkId || recordsKind(member, kind.id)),
      )
      .map((kind): Option => [`${service.id}/${kind.id}`, `${service.name}: ${kind.name}`]),
  ]);
  const missing = hidden
    .filter(({ service }) => !service.archived && service.id !== chosen?.serviceId)
    .map(({ service, why }): Option => [service.id, `${service.name}, ${why}`, 'not offered']);
  return [['', 'None'], ...options, ...missing];
}
