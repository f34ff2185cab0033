/** Brings an angle to −180 (not included) … 180, degrees. */
export const normalAzimuth = (deg: number): number => {
  const rest = (((deg + 180) % 360) + 360) % 360;
  return rest === 0 ? 180 : rest - 180;
};
