import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import { importX } from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import { readFileSync } from "node:fs";
import tseslint from "typescript-eslint";

const { encodings } = JSON.parse(readFileSync(new URL("./src/api/declared.json", import.meta.url)));
const KEY = `/^(${encodings.join("|")})$/`;

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts", "*.config.*"] },
  ...tseslint.configs.recommendedTypeChecked,
  importX.flatConfigs.typescript,
  {
    // A component is read in one go. Colour is the core's: what the front end must know of it is declared there, and generated or asked for.
    files: ["src/**"],
    rules: {
      "max-lines-per-function": ["error", { max: 150 }],
      "max-lines": ["error", { max: 350 }],
      "no-restricted-syntax": [
        "error",
        {
          selector: `Literal[value=${KEY}]`,
          message: "An encoding is chosen by the core or a person: take it from declared.json or an answer.",
        },
        {
          selector: "Literal[raw=/^(0?\\.(2126|7152|0722|2627|678|0593|3127|329)|6504|0?\\.18)$/]",
          message: "A constant of colour belongs to the core.",
        },
      ],
    },
  },
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
