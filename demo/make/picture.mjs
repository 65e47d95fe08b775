/** The picture of the interview: the clock seen from within, its hands and pendulum moving; raw RGB frames. */

export const WIDTH = 640;
export const HEIGHT = 360;
export const FRAMES_A_SECOND = 12;

const WALL = [216, 199, 160];
const PANEL = [183, 155, 112];
const FACE = [245, 234, 212];
const BRASS = [92, 67, 35];
const HAND = [58, 44, 24];

/** Distance of a point to a line from a to b. */
function toLine(x, y, ax, ay, bx, by) {
  const length = (bx - ax) ** 2 + (by - ay) ** 2;
  const along = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length));
  return Math.hypot(x - ax - along * (bx - ax), y - ay - along * (by - ay));
}

const CENTRE = { x: 320, y: 128 };
const RADIUS = 108;

function background() {
  const frame = Buffer.alloc(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      let color = x > 170 && x < 470 ? PANEL : WALL;
      const from = Math.hypot(x - CENTRE.x, y - CENTRE.y);
      if (from < RADIUS) color = FACE;
      if (Math.abs(from - RADIUS) < 5) color = BRASS;
      for (let hour = 0; hour < 12; hour++) {
        const angle = (hour * Math.PI) / 6;
        const [dx, dy] = [Math.sin(angle), -Math.cos(angle)];
        if (toLine(x, y, CENTRE.x + dx * 88, CENTRE.y + dy * 88, CENTRE.x + dx * 98, CENTRE.y + dy * 98) < 2.2)
          color = HAND;
      }
      frame.set(color, (y * WIDTH + x) * 3);
    }
  }
  return frame;
}

let still;

/** The frame at a time in seconds. It is ten to eleven when the film begins. */
export function drawFrame(seconds) {
  still ??= background();
  const frame = Buffer.from(still);
  const minutes = 50 + seconds / 60;
  const line = (ax, ay, bx, by, width, color) => {
    const [x0, x1] = [Math.min(ax, bx) - width - 1, Math.max(ax, bx) + width + 1].map(Math.round);
    const [y0, y1] = [Math.min(ay, by) - width - 1, Math.max(ay, by) + width + 1].map(Math.round);
    for (let y = Math.max(0, y0); y <= Math.min(HEIGHT - 1, y1); y++) {
      for (let x = Math.max(0, x0); x <= Math.min(WIDTH - 1, x1); x++) {
        const cover = Math.max(0, Math.min(1, width + 0.5 - toLine(x, y, ax, ay, bx, by)));
        if (cover === 0) continue;
        const at = (y * WIDTH + x) * 3;
        for (let part = 0; part < 3; part++)
          frame[at + part] = Math.round(frame[at + part] * (1 - cover) + color[part] * cover);
      }
    }
  };
  const hand = (turn, length, width) => {
    const angle = turn * 2 * Math.PI;
    line(CENTRE.x, CENTRE.y, CENTRE.x + Math.sin(angle) * length, CENTRE.y - Math.cos(angle) * length, width, HAND);
  };
  const swing = 0.2 * Math.sin(Math.PI * seconds);
  const bob = { x: CENTRE.x + Math.sin(swing) * 205, y: CENTRE.y + Math.cos(swing) * 205 };
  line(CENTRE.x + Math.sin(swing) * RADIUS, CENTRE.y + Math.cos(swing) * RADIUS, bob.x, bob.y, 2, BRASS);
  line(bob.x, bob.y, bob.x + 0.1, bob.y, 15, BRASS);
  hand((10 + minutes / 60) / 12, 54, 4);
  hand(minutes / 60, 82, 3);
  line(CENTRE.x, CENTRE.y, CENTRE.x + 0.1, CENTRE.y, 6, HAND);
  return frame;
}
