// @vitest-environment jsdom
import { openStudio, useComponents } from '../../testing/studio';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { usePricer } from '../../data/book';
import { useSettingChange } from '../../data/setting-change';
import { LatePayment } from './late-payment';

function Here() {
  const pricer = usePricer();
  return pricer ? <LatePayment pricer={pricer} /> : null;
}

/** Adds a rate as a screen would that has not heard of the one before. */
function Twice() {
  const change = useSettingChange();
  const add = (from: string) =>
    change('latePayment', (now) => ({
      law: 'UK',
      baseRates: [...(now?.baseRates ?? []), { from, percent: '4' }],
    }));
  return <button onClick={() => void add('2026-01-01').then(() => add('2026-07-01'))}>Twice</button>;
}

describe('settings that have parts', () => {
  useComponents();

  it('keep both of two changes that come one after the other', async () => {
    const { show, user, reader } = await openStudio();
    show(<Twice />);
    await user.click(await screen.findByText('Twice'));
    await waitFor(async () =>
      expect((await reader.all('workspace'))[0]!.latePayment?.baseRates.map((rate) => rate.from)).toEqual([
        '2026-01-01',
        '2026-07-01',
      ]),
    );
  });

  it('of late payment: a law, its base rates, a day that is none, and none again', async () => {
    const { show, user, reader, executor } = await openStudio();
    await executor.run('workspace.edit', { latePayment: { law: 'UK', baseRates: [] } });
    show(<Here />);
    await screen.findByText(/No base rate yet/);
    await user.type(screen.getByLabelText('In force from'), '5 Feb');
    await user.type(screen.getByLabelText('Per cent a year'), '3.75 %');
    await user.click(screen.getByRole('button', { name: 'Add the base rate' }));
    await screen.findByText(/“5 Feb” is not a day/);
    await user.clear(screen.getByLabelText('In force from'));
    await user.type(screen.getByLabelText('In force from'), '2026-02-05');
    await user.click(screen.getByRole('button', { name: 'Add the base rate' }));
    await waitFor(async () =>
      expect((await reader.all('workspace'))[0]!.latePayment).toEqual({
        law: 'UK',
        baseRates: [{ from: '2026-02-05', percent: '3.75' }],
      }),
    );
    await screen.findByText('5 Feb 2026');
  });
});
