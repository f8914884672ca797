import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

/** The rooms of the front end, lowest first: each may use those before it, and nothing else. */
const ROOMS = ['kit', 'api', 'look', 'shop', 'stations', 'phone', 'app'];
const STATIONS = ['art', 'edge', 'sheet', 'marks', 'print', 'cut', 'dryrun'];

const forbid = (files, rooms, why) => ({
  files,
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: [{ group: rooms.flatMap((room) => [`**/${room}/**`, `**/${room}`]), message: why }] },
    ],
  },
});

/** `kit` and `api` stand beside each other on the ground. */
const above = (room) => ROOMS.slice(room === 'kit' || room === 'api' ? 2 : ROOMS.indexOf(room) + 1);

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  ...ts.configs.strict,
  { plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules } },
  forbid(['src/kit/**'], ['api', ...above('kit')], 'The kit knows nothing of Vamper.'),
  forbid(['src/api/**'], ['kit', ...above('api')], 'The API knows no screen.'),
  forbid(['src/look/**'], above('look'), 'What is drawn knows neither stations nor the app.'),
  forbid(['src/shop/**'], above('shop'), 'The shop knows neither stations nor the app.'),
  forbid(['src/phone/**'], ['stations', 'app'], 'The phone shows no station.'),
  ...STATIONS.map((station) =>
    forbid(
      [`src/stations/${station}/**`],
      ['app', ...STATIONS.filter((other) => other !== station).map((other) => `stations/${other}`)].concat(
        STATIONS.filter((other) => other !== station).map((other) => `../${other}`),
      ),
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
