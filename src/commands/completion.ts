import { ownOf } from "../core/own.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { nearest } from "../core/values/nearest.js";
import type { CommandEntry, CommandFile } from "./command-file.js";
import { command } from "./command.js";
import { refuseIdle } from "./options/refuse-idle.js";

/** Each asks the program itself for the words that can stand where the cursor is: what it knows is what it completes. */
const scripts: Readonly<Record<string, string>> = {
  bash: `_lexicant() {
  local word
  COMPREPLY=()
  while IFS= read -r word; do COMPREPLY+=("$(printf '%q' "$word")"); done \\
    < <(lexicant completion words -- "\${COMP_WORDS[@]:1:COMP_CWORD}" 2>/dev/null)
}
complete -o default -F _lexicant lexicant
`,
  zsh: `#compdef lexicant
_lexicant() {
  local -a found
  found=("\${(@f)$(lexicant completion words -- "\${(@)words[2,CURRENT]}" 2>/dev/null)}")
  [[ -n "$found" ]] && compadd -- "\${found[@]}" || _files
}
compdef _lexicant lexicant
`,
  fish: `complete -c lexicant -a '(lexicant completion words -- (commandline -opc)[2..-1] (commandline -ct) 2>/dev/null)'
`,
};

const shells = Object.keys(scripts);

/** `lexicant completion SHELL`: a script for the shell; with `words`, what the script asks. */
export function completionOf(entries: () => readonly CommandEntry[]): CommandFile {
  return command({
    args: [
      ["<shell>", "bash, zsh or fish"],
      ["[words...]", "what stands on the line so far: asked by the script itself"],
    ],
    options: {},
    examples: [
      [
        "completion bash > ~/.local/share/bash-completion/completions/lexicant",
        "for bash, from the next shell on",
      ],
      ["completion fish > ~/.config/fish/completions/lexicant.fish", "for fish"],
    ],
    async run({ args, options, io }) {
      const [shell = "", ...words] = args;
      refuseIdle([[options.json, "--json", "commands that answer; this one writes a script"]]);
      if (shell === "words") {
        const { candidates } = await import("./complete/candidates.js");
        for (const word of await candidates(entries(), words, options, io)) io.out(`${word}\n`);
        return 0;
      }
      const script = ownOf(scripts, shell);
      if (script === undefined || !shells.includes(shell)) {
        const near = nearest(shell, shells);
        throw new Refusal([
          diagnostic("unknown-option", {
            reason: `"${shell}" is none of ${shells.join(", ")}${near.length === 0 ? "" : `; nearest: ${near.join(", ")}`}`,
          }),
        ]);
      }
      io.out(script);
      return 0;
    },
  });
}
