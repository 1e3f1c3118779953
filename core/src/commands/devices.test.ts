import { expect, it } from 'vitest';
import { MemoryStore } from '../engine';
import { fault } from '../testing/fault';
import { setUp, TestContext } from '../testing/studio';
import { MemoryExecutor } from './executor';

const keys = { signing: 'ab'.repeat(32), agreement: 'cd'.repeat(32) };

it('devices are met, renamed and removed, and come back with new keys; only the name can be taken back', async () => {
  const test = new TestContext();
  const store = new MemoryStore();
  const executor = new MemoryExecutor(store, test.context);
  await setUp(executor, test);
  const id = test.context().newId();
  await executor.run('device.meet', { id, name: 'Phone', keys });
  await expect(executor.undo()).rejects.toThrow(fault('outward'));
  await executor.run('device.rename', { id, name: ' Old phone ' });
  expect(store.rows('devices')).toMatchObject([{ id, name: 'Old phone', left: null }]);
  await executor.undo();
  expect(store.rows('devices')).toMatchObject([{ name: 'Phone' }]);
  await executor.run('device.remove', { id });
  expect(store.rows('devices')).toMatchObject([{ left: test.now }]);
  expect((await executor.run('device.remove', { id })).changes).toEqual([]);
  await executor.run('device.meet', { id, name: 'Phone', keys: { ...keys, signing: 'ef'.repeat(32) } });
  expect(store.rows('devices')).toMatchObject([{ left: null, keys: { signing: 'ef'.repeat(32) } }]);
  await expect(executor.run('device.rename', { id: test.context().newId(), name: 'Nobody’s' })).rejects.toThrow(
    fault('gone'),
  );
  await expect(executor.run('device.meet', { id, name: '  ', keys })).rejects.toThrow('This cannot be empty.');
});
