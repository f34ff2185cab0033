/** What is known of a model without drawing it. */
export interface ModelLook {
  readonly triangles: number;
}

/** Why a model is not taken in. */
export type ModelTrouble = 'damaged' | 'needs-other-files' | 'packed' | 'no-form' | 'too-many-triangles';

export const MODEL_LIMITS = {
  /** More are not taken in. */
  triangles: 8_000_000,
  /** What has more is shown with about so many. */
  shown: 1_000_000,
  /** One OBJ of text, unpacked. */
  textBytes: 400 * 1024 * 1024,
  /** All that an archive unpacks to. */
  archiveBytes: 768 * 1024 * 1024,
  /** Width × height of one picture of its surface. */
  texturePixels: 70_000_000,
} as const;
