/** Tests wait for what is made in the background; people do not. */
export const isInHaste = (): boolean => process.env.JOBS_IN_HASTE !== undefined;
