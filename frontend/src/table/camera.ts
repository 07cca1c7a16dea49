/** The camera that the server solved, used here so that rings follow the hand without delay. */
import type { Camera, Place } from "../api/types";

/** Pixel of a point in metres (z up from the cloth), or null behind the camera. */
export function project(camera: Camera, x: number, y: number, z: number): Place | null {
  const r = camera.rotation;
  const t = camera.translation;
  const at = (row: number) =>
    (r[3 * row] ?? 0) * x + (r[3 * row + 1] ?? 0) * y + (r[3 * row + 2] ?? 0) * z + (t[row] ?? 0);
  const depth = at(2);
  if (depth <= 1e-6) return null;
  const a = at(0) / depth;
  const b = at(1) / depth;
  const bend = 1 + camera.radial * (a * a + b * b);
  return [
    (camera.focal * a * bend + camera.centre[0]) / camera.pixel_aspect,
    camera.focal * b * bend + camera.centre[1],
  ];
}

/** The place seen at a pixel, `z` metres above the cloth; null above the horizon. */
export function placeAt(camera: Camera, pixel: Place, z: number): Place | null {
  const r = camera.rotation;
  const t = camera.translation;
  const bentX = (pixel[0] * camera.pixel_aspect - camera.centre[0]) / camera.focal;
  const bentY = (pixel[1] - camera.centre[1]) / camera.focal;
  let x = bentX;
  let y = bentY;
  for (let turn = 0; camera.radial !== 0 && turn < 12; turn++) {
    const bend = 1 + camera.radial * (x * x + y * y);
    x = bentX / bend;
    y = bentY / bend;
  }
  const column = (k: number, v: number[]) =>
    (r[k] ?? 0) * (v[0] ?? 0) + (r[3 + k] ?? 0) * (v[1] ?? 0) + (r[6 + k] ?? 0) * (v[2] ?? 0);
  const ray = [0, 1, 2].map((k) => column(k, [x, y, 1])) as [number, number, number];
  const eye = [0, 1, 2].map((k) => -column(k, t)) as [number, number, number];
  if (ray[2] >= -1e-9) return null;
  const share = (z - eye[2]) / ray[2];
  return [eye[0] + share * ray[0], eye[1] + share * ray[1]];
}

/** How well a click places a ball there: standard deviation in metres, from the nearest sample. */
export function sigmaAt(camera: Camera, place: Place): number {
  let best = 0.02;
  let nearest = Infinity;
  for (const [x, y, sigma] of camera.sigma) {
    const away = Math.hypot(x - place[0], y - place[1]);
    if (away < nearest) [nearest, best] = [away, sigma];
  }
  return best;
}

/** Radius in pixels of a ball that stands there. */
export function ballPixels(camera: Camera, place: Place, radius: number): number {
  const middle = project(camera, place[0], place[1], radius);
  const top = project(camera, place[0], place[1], 2 * radius);
  if (!middle || !top) return 0;
  const side = project(camera, place[0] + radius, place[1], radius) ?? middle;
  const other = project(camera, place[0], place[1] + radius, radius) ?? middle;
  return Math.max(
    Math.hypot(side[0] - middle[0], side[1] - middle[1]),
    Math.hypot(other[0] - middle[0], other[1] - middle[1]),
    Math.hypot(top[0] - middle[0], top[1] - middle[1]),
  );
}
