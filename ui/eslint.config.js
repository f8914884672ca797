import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  ...ts.configs.strict,
  { plugins: { 'react-hooks': hooks }, rules: { ...hooks.configs.recommended.rules } },
);
