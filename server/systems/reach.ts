import { lookup as resolveName } from 'node:dns';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { Agent, buildConnector, type Dispatcher } from 'undici';

/** Where this installation may send requests: anywhere, or to addresses of the public internet only. */
export type Reach = 'any' | 'public';

/** Said where an address isn't on the public internet and this installation doesn't reach others. */
export class NotPublic extends Error {
  readonly code = 'ZUSAMMEN_NOT_PUBLIC';
  constructor(host: string) {
    super(`${host} is not on the public internet, and this installation reaches nothing else (ZUSAMMEN_REACH).`);
  }
}

/** Whether an address belongs to the public internet: no loopback, private, link-local, shared or reserved range. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // `process` unwraps IPv4 addresses written as IPv6 ones (::ffff:127.0.0.1).
  return ipaddr.process(address).range() === 'unicast';
}

/**
 * What requests to systems and pages go out through. The address is judged after its name has been resolved, at every
 * connection, so that neither a redirect nor a name that changes its mind (DNS rebinding) leads inside.
 */
export function outwards(reach: Reach): Dispatcher {
  const settings = { keepAliveTimeout: 15_000, connections: 64 };
  if (reach === 'any') return new Agent(settings);
  const connect = buildConnector({ lookup: publicOnly });
  return new Agent({
    ...settings,
    connect: (options, callback) => {
      const host = options.hostname.replace(/^\[|\]$/g, '');
      // A bare address is connected to without being looked up.
      if (isIP(host) !== 0 && !isPublic(host)) return callback(new NotPublic(host), null);
      return connect(options, callback);
    },
  });
}

const publicOnly: LookupFunction = (hostname, options, callback) => {
  resolveName(hostname, { ...options, all: true }, (error, found) => {
    if (error) return callback(error, '', 0);
    const allowed = found.filter(({ address }) => isPublic(address));
    if (allowed.length === 0) return callback(new NotPublic(hostname) as NodeJS.ErrnoException, '', 0);
    if (options.all) return callback(null, allowed);
    return callback(null, allowed[0]!.address, allowed[0]!.family);
  });
};
