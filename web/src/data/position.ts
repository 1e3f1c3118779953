/** Where this device is, as the browser tells it. */
export interface Position {
  latitude: number;
  longitude: number;
  /** Metres that it may be wrong by. */
  accuracy: number;
}

const PATIENCE = 15_000;
/** Asks the browser where it is, which asks the person the first time; null where it cannot or may not tell. */
export const whereIsThis = (): Promise<Position | null> =>
  new Promise((resolve) => {
    if (!('geolocation' in navigator)) return resolve(null);
    navigator.geolocation.getCurrentPosition(
      ({ coords: { latitude, longitude, accuracy } }) => resolve({ latitude, longitude, accuracy }),
      () => resolve(null),
      // Whoever was refused and walks on is somewhere else a moment later.
      { enableHighAccuracy: true, timeout: PATIENCE, maximumAge: 0 },
    );
  });
