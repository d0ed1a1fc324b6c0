import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import { importX } from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts", "*.config.*"] },
  ...tseslint.configs.recommendedTypeChecked,
  importX.flatConfigs.typescript,
  {
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { "react-hooks": hooks, "import-x": importX },
    settings: { "import-x/resolver-next": [createTypeScriptImportResolver()] },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "import-x/no-cycle": "error",
      // React takes handlers that return a promise; a promise elsewhere is awaited or marked void.
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      // A stand-in for something asynchronous need not wait for anything itself.
      "@typescript-eslint/require-await": "off",
    },
  },
);
