import { readFileSync } from "node:fs";
import { resolve } from "node:path";

import { describe, expect, it } from "vitest";

import type { Camera, Place } from "../api/types";
import { ballPixels, placeAt, project, sigmaAt } from "./camera";

// A camera behind the head rail, written down as the server would answer it.
const eye = [-1.5, 0.635, 2.0] as const;
const down = Math.atan2(2.0, 2.7);
const [s, c] = [Math.sin(down), Math.cos(down)];
const rotation = [0, -1, 0, -s, 0, -c, c, 0, -s];
const translation = [0, 1, 2].map(
  (row) => -[0, 1, 2].reduce((sum, k) => sum + (rotation[3 * row + k] ?? 0) * (eye[k] ?? 0), 0),
);
const camera: Camera = {
  focal: 1000,
  centre: [640, 360],
  rotation,
  translation,
  radial: 0,
  pixel_aspect: 1,
  error_px: 0,
  sigma: [
    [0.3, 0.3, 0.004],
    [2.2, 0.3, 0.012],
  ],
};

describe("the camera", () => {
  it("sees the point it looks at in the middle of the picture", () => {
    const middle = project(camera, 1.2, 0.635, 0);
    expect(middle?.[0]).toBeCloseTo(640, 6);
    expect(middle?.[1]).toBeCloseTo(360, 6);
  });

  it("shows the left side of the table on the left", () => {
    expect(project(camera, 1.2, 1.2, 0)?.[0]).toBeLessThan(640);
  });

  it.each([0, -0.1])("takes a pixel back to the place it came from (bend %d)", (radial) => {
    const bent = { ...camera, radial, pixel_aspect: 4 / 3 };
    for (const place of [
      [0.2, 0.1],
      [1.3, 0.9],
      [2.4, 1.2],
    ] as Place[]) {
      const pixel = project(bent, place[0], place[1], 0.028);
      const back = pixel && placeAt(bent, pixel, 0.028);
      expect(back?.[0]).toBeCloseTo(place[0], 6);
      expect(back?.[1]).toBeCloseTo(place[1], 6);
    }
  });

  it("knows no place above the horizon and no pixel behind itself", () => {
    expect(placeAt(camera, [640, -5000], 0)).toBeNull();
    expect(project(camera, -10, 0.6, 0)).toBeNull();
  });

  it("draws near balls larger, and is surer of them", () => {
    expect(ballPixels(camera, [0.2, 0.6], 0.028)).toBeGreaterThan(ballPixels(camera, [2.4, 0.6], 0.028));
    expect(sigmaAt(camera, [0.2, 0.2])).toBe(0.004);
    expect(sigmaAt(camera, [2.4, 0.2])).toBe(0.012);
  });
});

it("agrees with the truth that is shipped beside the demo's recording", () => {
  const demo = resolve(process.cwd(), "../src/aretane/demo");
  const truth = JSON.parse(readFileSync(resolve(demo, "truth.json"), "utf8"));
  const match = JSON.parse(readFileSync(resolve(demo, "matches/nine-ball.json"), "utf8"));
  const seen: Camera = {
    ...camera,
    focal: truth.camera.focal,
    centre: [truth.camera.size[0] / 2, truth.camera.size[1] / 2],
    rotation: truth.camera.rotation.flat(),
    translation: truth.camera.translation,
  };
  const marks = match.recordings[0].views[0].camera.marks;
  const corner = project(seen, 2.54, 1.27, 0.635 * 0.05715);
  expect(corner?.[0]).toBeCloseTo(marks["corner:foot-left"][0], -0.5);
  expect(corner?.[1]).toBeCloseTo(marks["corner:foot-left"][1], -0.5);
});
