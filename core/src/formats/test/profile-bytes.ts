const u32 = (value: number) => [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);
const u16 = (value: number) => [(value >> 8) & 255, value & 255];
const text = (letters: string) => [...letters].map((letter) => letter.charCodeAt(0));
const fixed = (value: number) => u32(Math.round(value * 65_536));

/** A curve by entries of 16 bits: none for identity, one (of 8.8 bits) for a power. */
export const curv = (entries: readonly number[]): number[] => [
  ...text('curv'),
  ...u32(0),
  ...u32(entries.length),
  ...entries.flatMap((entry) => u16(Math.round(entry))),
];
/** A curve by one of the five functions. */
export const para = (kind: number, parameters: readonly number[]): number[] => [
  ...text('para'),
  ...u32(0),
  ...u16(kind),
  ...u16(0),
  ...parameters.flatMap(fixed),
];
const xyz = (values: readonly number[]) => [...text('XYZ '), ...u32(0), ...values.flatMap(fixed)];

interface Made {
  readonly curves?: readonly [number[], number[], number[]];
  /** X, Y, Z of red, green, blue at D50. */
  readonly columns?: readonly (readonly [number, number, number])[];
  readonly grey?: number[];
  readonly space?: string;
  readonly more?: readonly string[];
}

/** A profile as ICC.1:2022 has it, of a header, a table of tags and what they name. */
export function profileBytes({ curves, columns, grey, space, more = [] }: Made): Uint8Array<ArrayBuffer> {
  const tags: [string, number[]][] = grey
    ? [['kTRC', grey]]
    : ['r', 'g', 'b'].flatMap((letter, index): [string, number[]][] => [
        [`${letter}XYZ`, xyz(columns![index]!)],
        [`${letter}TRC`, curves![index]!],
      ]);
  for (const name of more) tags.push([name, [...text('mft2'), ...u32(0)]]);
  let at = 132 + tags.length * 12;
  const table: number[] = [];
  const bodies: number[] = [];
  for (const [name, body] of tags) {
    const padded = [...body, ...new Array<number>((4 - (body.length % 4)) % 4).fill(0)];
    table.push(...text(name), ...u32(at), ...u32(body.length));
    bodies.push(...padded);
    at += padded.length;
  }
  const header = new Array<number>(128).fill(0);
  const put = (from: number, bytes: readonly number[]) =>
    bytes.forEach((byte, index) => {
      header[from + index] = byte;
    });
  put(0, u32(at));
  put(8, u32(0x04400000));
  put(12, text('mntr'));
  put(16, text(space ?? (grey ? 'GRAY' : 'RGB ')));
  put(20, text('XYZ '));
  put(36, text('acsp'));
  put(68, [0.9642, 1, 0.8249].flatMap(fixed));
  return Uint8Array.from([...header, ...u32(tags.length), ...table, ...bodies]);
}
