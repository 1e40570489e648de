/** Addresses that the open internet does not reach (RFC 6890), refused when a name is looked up. */
import { lookup } from "node:dns";
import { BlockList, isIP } from "node:net";
import type { LookupFunction } from "node:net";

// Networks that no shop's pictures lie in: this machine, private and local ones, documentation, multicast, reserved.
const ipv4 = `0.0.0.0/8 10.0.0.0/8 100.64.0.0/10 127.0.0.0/8 169.254.0.0/16 172.16.0.0/12 192.0.0.0/24 192.0.2.0/24
192.168.0.0/16 198.18.0.0/15 198.51.100.0/24 203.0.113.0/24 224.0.0.0/4 240.0.0.0/4`;
// IPv4 addresses in IPv6 ones are held against the networks of IPv4 where they are mapped; the older ways to put one in
// (::127.0.0.1, 6to4, Teredo, NAT64) are not asked at all.
const ipv6 =
  "::/96 2001::/32 64:ff9b::/96 64:ff9b:1::/48 2001:db8::/32 2002::/16 fc00::/7 fe80::/10 ff00::/8";

const closed = new BlockList();
for (const [family, networks] of [
  ["ipv4", ipv4],
  ["ipv6", ipv6],
] as const)
  for (const network of networks.split(/\s+/)) {
    const [address = "", bits = ""] = network.split("/");
    closed.addSubnet(address, Number(bits), family);
  }

/** Whether an IP address is one that the open internet does not reach. */
export function isPrivate(address: string): boolean {
  const family = isIP(address);
  return family === 0 || closed.check(address, family === 6 ? "ipv6" : "ipv4");
}

/** Why a connection was not made. */
export class PrivateAddress extends Error {
  constructor(host: string, address: string) {
    super(
      host === address
        ? `${address} is a private address`
        : `${host} stands for the private address ${address}`,
    );
  }
}

/** Finds a host's addresses and refuses private ones there, so that no name can lead to them, at whatever moment it is asked. */
export const publicLookup: LookupFunction = (host, options, answer) => {
  lookup(host, options, (error, found, family) => {
    if (error !== null) {
      answer(error, found, family);
      return;
    }
    const all = Array.isArray(found) ? found.map(({ address }) => address) : [found];
    const hidden = all.find(isPrivate);
    if (hidden === undefined) answer(null, found, family);
    else answer(new PrivateAddress(host, hidden), found, family);
  });
};
