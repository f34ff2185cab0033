/** Of the Khronos validator, what is used here. */
declare module 'gltf-validator' {
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{
      readonly issues: { readonly numErrors: number; readonly numWarnings: number };
    }>;
  };
  export default validator;
}
