import type { Io } from "../../io/io.js";
import type { ExitCode } from "../../io/exit-code.js";
import { jsonLine } from "../../report/json.js";
import { tellInUse } from "../../report/tell-in-use.js";
import { surroundingsOf, withWritableCatalogue } from "../../flow/open-catalogue.js";
import { definitionsNamed, takeIntoUse } from "../../flow/take-into-use.js";
import type { CommonOptions } from "../command-file.js";

/** Takes channels into use, with fills to begin with. */
export async function addChannels(
  names: readonly string[],
  options: CommonOptions,
  io: Io,
): Promise<ExitCode> {
  const { json, quiet } = options;
  return withWritableCatalogue(options, io, async (open) => {
    const added = await definitionsNamed(open.workspace.root, names, surroundingsOf(io, open.workspace));
    await takeIntoUse(open, added, open.store);
    await open.landing.land();
    if (json) io.out(jsonLine({ type: "channels-added", channels: added.map(({ channel }) => channel) }));
    else if (!quiet) tellInUse(added, io);
    return 0;
  });
}
