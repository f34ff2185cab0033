declare module 'heic-decode' {
  interface Decoded {
    data: Uint8ClampedArray;
    width: number;
    height: number;
  }
  interface Undecoded {
    width: number;
    height: number;
    decode(): Promise<Decoded>;
  }
  const decode: {
    (input: { buffer: Uint8Array }): Promise<Decoded>;
    all(input: { buffer: Uint8Array }): Promise<Undecoded[]>;
  };
  export default decode;
}
