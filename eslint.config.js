import js from "@eslint/js";
import tseslint from "typescript-eslint";
import { importDirection } from "./scripts/import-direction.js";

export default tseslint.config(
  { ignores: ["dist/**", "node_modules/**", "demo-shop/**", "test/cases/**"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ["src/**/*.ts"],
    plugins: { house: { rules: { "import-direction": importDirection } } },
    rules: {
      "house/import-direction": "error",
      "no-console": "error",
      "no-restricted-syntax": [
        "error",
        { selector: "ExportDefaultDeclaration", message: "Exports have names." },
        { selector: "TSEnumDeclaration", message: "A union of literals says the same without code." },
        {
          selector: "MemberExpression[object.name='process'][property.name=/^exit/]",
          message: "A command returns its exit code; main.ts alone sets the process's.",
        },
      ],
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/no-extraneous-class": "off",
    },
  },
  { files: ["src/main.ts", "src/process-io.ts"], rules: { "no-restricted-syntax": "off" } },
  {
    files: ["scripts/**/*.{js,mjs}", "bench/**/*.mjs", "test/**/*.mjs", "*.js"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        URL: "readonly",
        Buffer: "readonly",
        setTimeout: "readonly",
        performance: "readonly",
      },
    },
  },
  { files: ["test/**/*.ts"], rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
);
