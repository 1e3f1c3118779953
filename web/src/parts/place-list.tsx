import { Fault, type Place } from '@half-penny/core/model';
import { LocateFixed } from 'lucide-react';
import { useState } from 'react';
import { newId } from '../data/registry';
import { whereIsThis } from '../data/position';
import { AddLine } from './add-line';
import { Button } from './button';
import { Ledger, type Column } from './ledger';
import { Section } from './page';

interface PlaceListProps {
  title: string;
  about: string;
  places: readonly Place[];
  save: (places: Place[]) => Promise<unknown>;
}

/** Figures of a map are copied as they are, with a comma between them. */
const POINT = /^\s*(-?\d{1,2}(?:\.\d+)?)\s*[,; ]\s*(-?\d{1,3}(?:\.\d+)?)\s*$/;
const round = (degrees: number) => Math.round(degrees * 1e6) / 1e6;

/** "50.3689, -4.1393" as a point. @throws Fault in words */
function readPoint(text: string): Pick<Place, 'latitude' | 'longitude'> {
  const [, north, east] = POINT.exec(text.replaceAll('−', '-')) ?? [];
  if (north === undefined || east === undefined)
    throw new Fault(
      'not-a-number',
      'Write a point as latitude and longitude in degrees, such as 50.3689, -4.1393: maps show it like that.',
      'point',
    );
  return { latitude: round(Number(north)), longitude: round(Number(east)) };
}

function readRadius(text: string): number {
  const [, figure, unit] = /^\s*(\d+(?:\.\d+)?)\s*(m|km)?\s*$/i.exec(text) ?? [];
  if (figure === undefined) throw new Fault('not-a-number', 'Write a distance such as 200 m or 1.5 km.', 'radius');
  return Math.round(Number(figure) * (unit?.toLowerCase() === 'km' ? 1000 : 1));
}

const showPoint = ({ latitude, longitude }: Place) => `${latitude}, ${longitude}`;

/** Places that time is recorded from: a point and how far around it counts. */
export function PlaceList({ title, about, places, save }: PlaceListProps) {
  const change = (place: Place, fields: Partial<Place>) =>
    save(places.map((each) => (each.id === place.id ? { ...each, ...fields } : each)));
  const columns: Column<Place>[] = [
    {
      key: 'name',
      head: 'Place',
      width: 'minmax(0,1fr)',
      cell: ({ name }) => <span className="written clamp-2">{name}</span>,
      edit: { text: ({ name }) => name, save: (place, name) => change(place, { name }) },
    },
    {
      key: 'point',
      head: 'Latitude, longitude',
      width: '190px',
      cell: (place) => <span className="font-mono text-sm">{showPoint(place)}</span>,
      edit: { text: showPoint, save: async (place, text) => change(place, readPoint(text)) },
    },
    {
      key: 'radius',
      head: 'Around it',
      width: '100px',
      align: 'end',
      cell: ({ radius }) => <span className="font-mono text-sm">{radius} m</span>,
      edit: {
        text: ({ radius }) => `${radius} m`,
        save: async (place, text) => change(place, { radius: readRadius(text) }),
      },
    },
  ];
  return (
    <Section title={title}>
      <p className="mb-2 max-w-2xl text-sm text-soft">{about}</p>
      <Ledger
        label={title}
        rows={places}
        rowId={({ id }) => id}
        rowName={({ name }) => name}
        columns={columns}
        onDelete={(place) => void save(places.filter(({ id }) => id !== place.id))}
        empty="No places: time is recorded from anywhere."
      />
      <AddLine
        label="Add a place"
        button="Add the place"
        folded={places.length > 0}
        fields={[
          { key: 'name', label: 'New place', className: 'min-w-40 flex-1' },
          { key: 'point', label: 'Latitude, longitude', placeholder: '50.3689, -4.1393', className: 'w-52' },
          { key: 'radius', label: 'Around it', start: '200 m', className: 'w-28' },
        ]}
        add={async ({ name = '', point = '', radius = '' }) =>
          save([...places, { id: newId(), name, ...readPoint(point), radius: readRadius(radius) }])
        }
      />
      <Here places={places} save={save} />
    </Section>
  );
}

/** Adds the place where this device is. */
function Here({ places, save }: Pick<PlaceListProps, 'places' | 'save'>) {
  const [fault, setFault] = useState<string>();
  const add = async () => {
    setFault(undefined);
    const found = await whereIsThis();
    if (!found) return setFault('The browser does not tell where it is, or was not allowed to.');
    const point = { latitude: round(found.latitude), longitude: round(found.longitude) };
    await save([...places, { id: newId(), name: 'Here', ...point, radius: 200 }]);
  };
  return (
    <p className="mt-2 text-sm">
      <Button kind="quiet" icon={<LocateFixed size={14} aria-hidden />} onClick={() => void add()}>
        Add where I am now
      </Button>
      {fault && (
        <span role="alert" className="ml-3 text-fault">
          {fault}
        </span>
      )}
    </p>
  );
}
