import js from "@eslint/js";
import tseslint from "typescript-eslint";
import { dataNames } from "./scripts/data-names.js";
import { importDirection } from "./scripts/import-direction.js";

export default tseslint.config(
  { ignores: ["dist/**", "modules/**", "node_modules/**", "demo-shop/**", "test/cases/**"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    files: ["src/**/*.ts"],
    extends: [tseslint.configs.strictTypeChecked],
    languageOptions: {
      parserOptions: { project: "./tsconfig.src.json", tsconfigRootDir: import.meta.dirname },
    },
    plugins: { house: { rules: { "data-names": dataNames, "import-direction": importDirection } } },
    rules: {
      "house/data-names": "error",
      "house/import-direction": "error",
      "no-console": "error",
      "no-restricted-syntax": [
        "error",
        { selector: "ExportDefaultDeclaration", message: "Exports have names." },
        { selector: "TSEnumDeclaration", message: "A union of literals says the same without code." },
        {
          selector: "ObjectExpression > SpreadElement > ObjectExpression",
          message: "Properties that are spelled out are not spread.",
        },
        {
          selector:
            ":matches(Program, ExportNamedDeclaration) > VariableDeclaration > VariableDeclarator:not([id.typeAnnotation]) > ArrowFunctionExpression[body.type='BlockStatement']",
          message:
            "What has a body is declared as a function: whoever reads, or draws the way, finds it by name.",
        },
        {
          selector: "MemberExpression[object.name='process'][property.name=/^exit/]",
          message: "A command returns its exit code; main.ts alone sets the process's.",
        },
        {
          selector:
            "CallExpression[callee.property.name=/^(push|unshift|splice|concat|max|min|fromCharCode|fromCodePoint)$/] > SpreadElement",
          message: "A long list spread into a call overflows the stack: addAll and greatest of core/many.ts.",
        },
      ],
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/no-extraneous-class": "off",
      "@typescript-eslint/switch-exhaustiveness-check": [
        "error",
        { considerDefaultExhaustiveForUnions: false, requireDefaultForNonUnion: true },
      ],
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/restrict-plus-operands": ["error", { allowNumberAndString: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // Our values are made of closures: what is taken out of one needs no "this".
      "@typescript-eslint/unbound-method": "off",
      // A text is spread into its code points on purpose.
      "@typescript-eslint/no-misused-spread": [
        "error",
        { allow: ["string", { from: "file", name: ["DefinitionModel"] }] },
      ],
      // The models of decision files are classes for their validator's sake; they hold data and nothing else.
      "@typescript-eslint/no-unsafe-class-instance-assignment": "off",
    },
  },
  // Every engine answers as the interface says, in its own time; this one is there at once.
  { files: ["src/store/**/*.ts"], rules: { "@typescript-eslint/require-await": "off" } },
  { files: ["src/main.ts", "src/cli/process-io.ts"], rules: { "no-restricted-syntax": "off" } },
  {
    files: ["scripts/**/*.{js,mjs}", "bench/**/*.mjs", "test/**/*.mjs", "*.js"],
    languageOptions: {
      globals: {
        process: "readonly",
        console: "readonly",
        URL: "readonly",
        Buffer: "readonly",
        setTimeout: "readonly",
        fetch: "readonly",
        performance: "readonly",
      },
    },
  },
  // What a template does not show is taken out of its truth by naming it.
  {
    files: ["bench/templates/*.mjs", "scripts/papers.mjs"],
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { ignoreRestSiblings: true }],
      "@typescript-eslint/ban-ts-comment": "off",
    },
  },
  { files: ["test/**/*.ts"], rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
);
