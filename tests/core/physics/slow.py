"""An independent simulator for the tests: small time steps, straight from the laws of motion.

It shares nothing with the engine but the table's numbers: forces are integrated step by step (midpoint rule),
contacts are found by overlap and stepped back to, impulses are written out from the rigid-body equations in
vector form.
"""

from __future__ import annotations

import numpy as np

G = 9.81
STEP = 2e-4


class Slow:
    def __init__(self, table, physics, places):
        self.table, self.p = table, physics
        self.R = table.radius
        self.x = np.array(places, dtype=float)
        self.v = np.zeros((len(places), 3))
        self.w = np.zeros((len(places), 3))
        self.touched = []

    def strike(self, velocity, spin):
        self.v[0], self.w[0] = velocity, spin

    def run(self, seconds):
        for _ in range(round(seconds / STEP)):
            self._step(STEP)
            if not self.v.any() and not self.w[:, :2].any():
                return

    def _step(self, dt):
        before = self.x.copy(), self.v.copy(), self.w.copy()
        self._move(dt)
        hit = self._earliest(before, dt)
        if hit is None:
            return
        share, act = hit
        self.x, self.v, self.w = (part.copy() for part in before)
        self._move(share * dt)
        act()
        self._move((1 - share) * dt)

    def _move(self, dt):
        for i in range(len(self.x)):
            v, w = self.v[i], self.w[i]
            slip = v + np.cross(w, [0, 0, -self.R])
            speed, rubbing = np.linalg.norm(v), np.linalg.norm(slip[:2])
            pull = np.zeros(3)
            if rubbing > 3.5 * self.p.slide_friction * G * dt:
                pull[:2] = -self.p.slide_friction * G * slip[:2] / rubbing
                w[:] += np.cross([0, 0, -self.R], pull) / (0.4 * self.R**2) * dt
            elif speed > self.p.roll_friction * G * dt:
                # What is left of the slip goes in this step, as friction would take it; then the ball rolls.
                v -= 2 / 7 * slip * (rubbing > 0)
                pull = -self.p.roll_friction * G * v / np.linalg.norm(v)
                then = v + pull * dt
                w[:2] = [-then[1] / self.R, then[0] / self.R]
            else:
                v[:] = 0.0
                w[:2] = 0.0
            self.x[i] += v[:2] * dt + pull[:2] * dt * dt / 2
            v += pull * dt
            less = self.p.spin_slowing * dt
            w[2] = np.sign(w[2]) * max(abs(w[2]) - less, 0.0)

    def _earliest(self, before, dt):
        """Share of the step at which the first contact happens, and what it does."""
        found = []
        old, new = before[0], self.x
        rho = self.table.contact_distance(self.R)
        for i in range(len(new)):
            for axis, size in ((0, self.table.length), (1, self.table.width)):
                for wall, sign in ((rho, 1.0), (size - rho, -1.0)):
                    a, b = sign * (old[i, axis] - wall), sign * (new[i, axis] - wall)
                    if b < 0 and sign * self.v[i, axis] < 0:
                        normal = np.zeros(3)
                        normal[axis] = sign
                        share = min(1.0, max(0.0, a / (a - b)))
                        found.append((share, lambda i=i, n=normal: self._cushion(i, n)))
            for j in range(i):
                a = np.linalg.norm(old[i] - old[j]) - 2 * self.R
                b = np.linalg.norm(new[i] - new[j]) - 2 * self.R
                if b < 0 and (self.v[i] - self.v[j])[:2] @ (new[i] - new[j]) < 0:
                    found.append((min(1.0, max(0.0, a / (a - b))), lambda i=i, j=j: self._collide(i, j)))
        return min(found, key=lambda one: one[0], default=None)

    def _collide(self, i, j):
        self.touched.append((i, j))
        n = np.append(self.x[j] - self.x[i], 0.0)
        n /= np.linalg.norm(n)
        push = (1 + self.p.ball_restitution) / 2 * (self.v[i] - self.v[j]) @ n
        slip = self.v[i] - self.v[j] + np.cross(self.w[i] + self.w[j], self.R * n)
        slip -= (slip @ n) * n
        rate = np.linalg.norm(slip)
        rub = np.zeros(3)
        if rate > 0:
            mu = self.p.friction_floor + self.p.friction_span * np.exp(-self.p.friction_decay * rate)
            rub = -min(mu * push, rate / 7) * slip / rate
        self.v[i] += rub - push * n
        self.v[j] += push * n - rub
        self.w[i] += np.cross(self.R * n, rub) / (0.4 * self.R**2)
        self.w[j] += np.cross(-self.R * n, -rub) / (0.4 * self.R**2)
        self.v[[i, j], 2] = 0.0

    def _cushion(self, i, inward):
        """I. Han (2005): restitution along the tilted line from centre to nose, friction across it."""
        sin = (self.table.nose_height - self.R) / self.R
        out = -np.sqrt(1 - sin**2) * inward + np.array([0, 0, sin])
        closing = self.v[i] @ out
        e = max(self.p.rail_restitution - self.p.rail_softening * closing, 0.4)
        push = (1 + e) * closing
        slip = self.v[i] + np.cross(self.w[i], self.R * out)
        slip -= (slip @ out) * out
        rate = np.linalg.norm(slip)
        rub = -min(self.p.rail_friction * push, rate * 2 / 7) * slip / rate if rate > 0 else np.zeros(3)
        self.v[i] += rub - push * out
        self.w[i] += np.cross(self.R * out, rub) / (0.4 * self.R**2)
        self.v[i, 2] = 0.0
