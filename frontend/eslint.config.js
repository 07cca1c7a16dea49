import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "eslint.config.js", "src/api/api.d.ts"] },
  ...tseslint.configs.strict,
  reactHooks.configs.flat.recommended,
  {
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-unnecessary-type-assertion": "error", // the server's types are the truth
      "@typescript-eslint/no-non-null-assertion": "error",
    },
  },
);
