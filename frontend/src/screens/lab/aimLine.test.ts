import { describe, expect, it } from "vitest";

import { aimLine } from "./aimLine";

const R = 0.028575;

describe("aim line and contact point", () => {
  it("covers half the ball at thirty degrees, and is aimed at its edge (half-ball hit, common practice)", () => {
    const [ball, mouth]: [[number, number], [number, number]] = [[1, 0.5], [2, 0.5]]; // prettier-ignore
    const ghost = [1 - 2 * R, 0.5];
    const away = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    const cue: [number, number] = [(ghost[0] ?? 0) - (away[0] ?? 0), (ghost[1] ?? 0) - (away[1] ?? 0)];
    const told = aimLine(cue, ball, mouth, R, R);
    expect(told?.fullness).toBeCloseTo(0.5, 6);
    expect(told?.aimAside).toBeCloseTo(R, 6);
    expect(told?.contactAside).toBeCloseTo(R / 2, 6);
    expect(told?.side).toBe("left");
  });

  it("meets a straight ball in its middle", () => {
    const told = aimLine([0.5, 0.5], [1, 0.5], [2, 0.5], R, R);
    expect(told).toMatchObject({ side: "middle", fullness: 1 });
    expect(told?.contact[0]).toBeCloseTo(1 - R, 9);
  });

  it("cannot cut beyond a right angle", () => {
    expect(aimLine([1.5, 0.6], [1, 0.5], [2, 0.5], R, R)).toBeNull();
  });
});
