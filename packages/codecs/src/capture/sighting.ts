/**
 * One thing that a frame or a listing tells about a host. `mac` in lower case with colons, `ip` in dotted form,
 * `prefix` where a mask was seen beside it, `name` as the host calls itself.
 */
export interface Sighting {
  readonly by: 'arp' | 'dhcp' | 'mdns' | 'ip' | 'listing';
  readonly mac: string | null;
  readonly ip: string | null;
  readonly prefix?: number;
  readonly name?: string;
  readonly version?: string;
  /** It was seen handing out addresses, or named as the way out. */
  readonly role?: 'dhcp_server' | 'gateway';
  /** How the host says it got the address. */
  readonly method?: 'dhcp' | 'self' | 'static';
}
