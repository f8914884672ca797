import { readdirSync } from 'node:fs';

import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** The floors of the front end, lowest first: a room may use those on floors below its own, and nothing else. */
const FLOORS = [['kit', 'api'], ['look'], ['shop'], ['stations'], ['phone', 'tonight', 'ledger', 'practise'], ['app']];
const WHY = {
  kit: 'The kit knows nothing of Vamper.',
  api: 'The API knows no screen.',
  look: 'What is drawn knows neither stations nor the app.',
  shop: 'The shop knows neither stations nor the app.',
  stations: 'Stations do not know the app, nor pages beside them.',
};
const STATIONS = readdirSync(new URL('src/stations', import.meta.url));

/** Nothing of these folders, wherever the importing file lies. */
const forbid = (files, folders, why) => ({
  files,
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: [{ regex: `^(\\.\\./)+(${folders.join('|')})(/|$)`, message: why }] },
    ],
  },
});

/** What a room may not use: those beside it and all above. */
const beyond = (room) => {
  const floor = FLOORS.findIndex((rooms) => rooms.includes(room));
  return FLOORS.slice(floor)
    .flat()
    .filter((other) => other !== room);
};

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  ...ts.configs.strict,
  { plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules } },
  ...FLOORS.flat()
    .filter((room) => beyond(room).length)
    .map((room) => forbid([`src/${room}/**`], beyond(room), WHY[room] ?? 'Pages do not know each other.')),
  forbid(['src/phone/**'], [...beyond('phone'), 'stations'], 'The phone shows no station.'),
  ...STATIONS.map((station) =>
    forbid(
      [`src/stations/${station}/**`],
      [...beyond('stations'), ...STATIONS.filter((other) => other !== station)],
      'Stations know neither each other nor the app.',
    ),
  ),
  {
    files: ['src/**'],
    ignores: ['src/api/uploads.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        { name: 'fetch', message: 'Ask through the client in api/.' },
        { name: 'XMLHttpRequest', message: 'Only uploads need their progress.' },
      ],
    },
  },
);
