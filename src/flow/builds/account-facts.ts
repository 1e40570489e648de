import { showsShop } from "../../core/channel/layout-formats/layout-formats.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { AccountFacts } from "../../layouts/layout.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";

/** What a channel's files say of the account. */
export function accountFacts(workspace: Workspace, { setup, account }: WorkspaceChannel): AccountFacts {
  const shopUrl = account.shop_url;
  if (shopUrl === undefined && setup.definition.layouts.some(showsShop))
    throw new Refusal([
      diagnostic(
        "wrong-setting",
        { key: "account.shop_url", reason: "the feed shows the shop's web address, and none is given" },
        { place: { file: `channels/${setup.channel}/channel.yaml` } },
      ),
    ]);
  const title = account.title ?? workspace.manifest.shop;
  return { title, shopUrl: shopUrl ?? "", description: account.description ?? title };
}
