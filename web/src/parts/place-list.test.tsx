// @vitest-environment jsdom
import { openStudio, useComponents } from '../testing/studio';
import { screen, waitFor, within } from '@testing-library/react';
import type { Place } from '@half-penny/core/model';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { PlaceList } from './place-list';

const saved: Place[][] = [];

function Kept() {
  const [places, setPlaces] = useState<Place[]>([]);
  const save = async (next: Place[]) => {
    saved.push(next);
    setPlaces(next);
  };
  return <PlaceList title="Places" about="Where from." {...{ places, save }} />;
}

/** A browser that is somewhere, or does not tell. */
const standAt = (position: { latitude: number; longitude: number; accuracy: number } | null) =>
  vi.stubGlobal('navigator', {
    ...navigator,
    geolocation: {
      getCurrentPosition: (found: (at: { coords: object }) => void, failed: () => void) =>
        position ? found({ coords: position }) : failed(),
    },
  });

describe('places to record from', () => {
  useComponents();
  afterEach(() => {
    vi.unstubAllGlobals();
    saved.length = 0;
  });

  it('are a point as maps show it and a distance around it, refused in words where they are not', async () => {
    const { show, user } = await openStudio();
    show(<Kept />);
    const add = await screen.findByRole('button', { name: 'Add the place' });
    await user.type(screen.getByLabelText('New place'), 'Saltmere docks');
    await user.type(screen.getByLabelText('Latitude, longitude'), 'by the sea');
    await user.click(add);
    expect((await screen.findByRole('alert')).textContent).toContain('latitude and longitude in degrees');
    await user.clear(screen.getByLabelText('Latitude, longitude'));
    await user.type(screen.getByLabelText('Latitude, longitude'), '50.36891234, −4.1393');
    await user.clear(screen.getByLabelText('Around it'));
    await user.type(screen.getByLabelText('Around it'), '1.5 km');
    await user.click(add);
    await waitFor(() => expect(saved).toHaveLength(1));
    expect(saved[0]).toMatchObject([{ name: 'Saltmere docks', latitude: 50.368912, longitude: -4.1393, radius: 1500 }]);
    const list = within(screen.getByRole('grid', { name: 'Places' }));
    expect(list.getByRole('row', { name: /Saltmere docks/ }).textContent).toContain('1500 m');
  });

  it('are added where one is, and it is said where the browser does not tell', async () => {
    const { show, user } = await openStudio();
    standAt(null);
    show(<Kept />);
    await user.click(await screen.findByRole('button', { name: 'Add where I am now' }));
    expect((await screen.findByRole('alert')).textContent).toContain('does not tell where it is');
    standAt({ latitude: 50.4, longitude: -4.1, accuracy: 5 });
    await user.click(screen.getByRole('button', { name: 'Add where I am now' }));
    await waitFor(() => expect(saved).toMatchObject([[{ latitude: 50.4, longitude: -4.1, radius: 200 }]]));
  });
});
