/** The state of sending: files and bytes of the present run. */
export interface UploadProgress {
  readonly files: number;
  readonly filesDone: number;
  readonly bytes: number;
  readonly bytesDone: number;
}
