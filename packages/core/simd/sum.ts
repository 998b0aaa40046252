/** Of the four numbers of a vector. */
export function sum(v: v128): f64 {
  return <f64>f32x4.extract_lane(v, 0) + <f64>f32x4.extract_lane(v, 1) + (<f64>f32x4.extract_lane(v, 2) + <f64>f32x4.extract_lane(v, 3));
}
