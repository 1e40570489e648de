/** An exchange held against the rest of its definition: fields and layouts that it names are there. */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../values/nearest.js";
import type { Names } from "../language/names.js";
import type { DefinitionSource } from "./definition-source.js";
import type { ExchangeDefinition } from "./exchange-definition.js";
import type { LayoutDefinition } from "./layout-definition.js";

const marks: ReadonlySet<string> = new Set(["file", "job", "action", "purpose", "version", "number"]);

/** Holds an exchange against the rest of the definition. */
export function buildExchange(
  { exchange, results }: DefinitionSource,
  layouts: readonly LayoutDefinition[],
  fields: Names,
  findings: Diagnostic[],
): ExchangeDefinition | undefined {
  if (exchange === undefined) return undefined;
  const { send, live, find, progress, place } = exchange;
  const wrong = (key: string, reason: string): void => {
    findings.push(diagnostic("wrong-setting", { key: `exchange.${key}`, reason }, { place }));
  };
  const named = (key: string, layout: string | undefined): void => {
    const known = layouts.map(({ name }) => name);
    if (layout !== undefined && !known.includes(layout))
      wrong(key, `names no layout: "${layout}"; there are ${known.join(", ")}`);
  };
  named("send.layout", send.layout);
  named("live.layout", live?.layout);
  if (send.again === "find" && find === undefined)
    wrong("find", "says where a file is looked for, since send.again is find");
  if (exchange.report !== undefined && results === undefined)
    wrong("report", "has no meaning without results, which say how a report is read");
  for (const [key, pattern] of Object.entries({
    "send.to": send.to,
    trial: exchange.trial,
    "find.from": find?.from,
    "progress.from": progress?.from,
    report: exchange.report,
    "live.from": live?.from,
    categories: exchange.categories,
    ...Object.fromEntries(
      Object.entries(send.parts ?? {}).map(([name, text]) => [`send.parts.${name}`, text]),
    ),
  }))
    for (const [, mark = ""] of (pattern ?? "").matchAll(/\{([^}]*)\}/g))
      if (!marks.has(mark))
        wrong(key, `has a mark that nothing fills: {${mark}}; there are ${[...marks].join(", ")}`);
  for (const field of Object.keys(live?.alters ?? {}))
    if (field !== "*" && fields.find(field) === undefined)
      findings.push(diagnostic("unknown-field", { field, nearest: nearest(field, fields.all) }, { place }));
  return {
    send: {
      as: send.as,
      to: send.to,
      layout: send.layout,
      name: send.name ?? "{stem}{ending}",
      filePart: send.file_part ?? "file",
      parts: send.parts ?? {},
      again: send.again ?? "never",
      keyHeader: send.key_header ?? "",
      job: send.job ?? "",
    },
    trial: exchange.trial,
    token: exchange.token,
    progress:
      progress === undefined
        ? undefined
        : {
            from: progress.from,
            state: progress.state,
            percent: progress.percent ?? "",
            because: progress.because ?? "",
            done: progress.done,
            thrownOut: progress.thrown_out ?? [],
          },
    find: find === undefined ? undefined : { from: find.from, job: find.job ?? "" },
    report: exchange.report,
    live:
      live === undefined
        ? undefined
        : {
            from: live.from,
            format: live.format,
            layout: live.layout,
            records: live.records ?? "",
            id: live.id ?? "",
            kind: live.kind ?? "",
            groupKind: live.group_kind ?? "",
            alters: live.alters ?? {},
          },
    categories: exchange.categories,
  };
}
