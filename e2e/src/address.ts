/** Where the tests' own server answers; another port is another store. */
export const PORT = Number(process.env.E2E_PORT ?? 4377);
