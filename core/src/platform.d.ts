/** What core uses of every platform it runs on (browsers, workers, Node.js), declared here because it has no DOM library. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes?: Uint8Array): string;
}
declare class TextEncoder {
  encode(text?: string): Uint8Array;
}
declare class URL {
  constructor(address: string, base?: string);
  static canParse(address: string, base?: string): boolean;
  href: string;
  readonly origin: string;
  protocol: string;
  host: string;
  hostname: string;
  port: string;
  pathname: string;
  search: string;
  hash: string;
  username: string;
  password: string;
}
