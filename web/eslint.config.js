import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.gen.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat.recommended,
  { rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
);
