import { lazy } from 'react';
import { Navigate, Outlet } from 'react-router';
import { usePricer } from '../data/book';
import { places, useIsFor } from './sections';

const NotForYou = lazy(() => import('./not-for-you'));

/** Screens of a place, for those whom it is for; the others are told. */
export function Allowed({ path }: { path: string }) {
  const isFor = useIsFor();
  const place = places.find((each) => each.path === path)!;
  return isFor(place) ? <Outlet /> : <NotForYou place={place} />;
}

/** The first place that somebody may go to. */
export function First() {
  const isFor = useIsFor();
  // Before it is read who may what, everybody seems to be allowed everything.
  if (!usePricer()) return null;
  return <Navigate to={places.find(isFor)!.path} replace />;
}
