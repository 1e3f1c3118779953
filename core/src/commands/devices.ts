import * as z from 'zod';
import { command, need, Plan } from '../engine/command';
import * as fields from '../model/fields';
import { deviceSchema } from '../model/records';

// Which devices a shared workspace is on. Whom the relay lets in is decided by signed rows of its own; this says what they are called, and
// what is meant for one alone is sealed to.

/** Keeps a device's name and keys. One that was removed comes back with new keys. */
export const meetDevice = command({
  name: 'device.meet',
  title: 'Device met',
  outward: 'It has the workspace by now. Remove it under Setup, Devices.',
  input: deviceSchema.pick({ id: true, name: true, keys: true }),
  // One that was removed comes back with new keys.
  async plan(_reader, device, { now }) {
    return new Plan().put('devices', { ...device, since: now, left: null });
  },
});

/** Gives a device another name. */
export const renameDevice = command({
  name: 'device.rename',
  title: 'Device renamed',
  input: z.strictObject({ id: fields.id, name: fields.name }),
  async plan(reader, { id, name }) {
    return new Plan().put('devices', { ...(await need(reader, 'devices', id, 'device')), name: name.trim() });
  },
});

/** Says that a device has left. It keeps what it had; what is written from now on it cannot read. */
export const removeDevice = command({
  name: 'device.remove',
  title: 'Device removed',
  outward: 'It is not let in any more. Meet it again to go on with it.',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }, { now }) {
    const device = await need(reader, 'devices', id, 'device');
    return device.left === null ? new Plan().put('devices', { ...device, left: now }) : new Plan();
  },
});
