/** What a stand-in's own screen says of one parameter; undefined where it is off the bench or knows none like it. */
export const faceOf = (
  standins: readonly { readonly deviceId: string; readonly face: readonly (readonly [string, string])[] }[] | undefined,
  id: string,
  parameter: string,
): string | undefined =>
  standins?.find(({ deviceId }) => deviceId === id)?.face.find(([name]) => name === parameter)?.[1];
