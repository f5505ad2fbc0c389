// Draws the photograph of the demo's corridor: a made-up wall with a door of 926 × 2040 mm, seen by a camera that is written down, so that
// what is marked in it is known. Run it after a build: node demo/photographs/draw-corridor.mjs
import { chromium } from 'playwright-core';
import { cameraAt } from '@plain-relief/core/in-place';

const [WIDTH, HEIGHT] = [1600, 1200];
/** Origin on the floor below the sign; the door is to the left of it. */
const camera = cameraAt({ x: -300, y: 1180 }, { turn: 24, tilt: 2, distance: 3050 }, 0.78 * WIDTH, WIDTH, HEIGHT);
const points = (corners) => corners.map(([x, y, z = 0]) => camera.seen(x, y, z).slice(0, 2).map((px) => px.toFixed(2)).join(',')).join(' '); // prettier-ignore
const polygon = (fill, ...corners) => `<polygon points="${points(corners)}" fill="${fill}"/>`;
const box = (fill, left, low, right, high, z = 0) =>
  polygon(fill, [left, low, z], [right, low, z], [right, high, z], [left, high, z]);
const [LEFT, RIGHT, TOP] = [-1180, -254, 2040];

// The random numbers of a fixed seed (D. Lehmer, 1951): a wall is never quite even.
let seed = 7;
const random = () => (seed = (seed * 48271) % 2147483647) / 2147483647;
const uneven = Array.from({ length: 420 }, () => {
  const [x, y, size] = [-3500 + 5200 * random(), 60 + 2900 * random(), 20 + 160 * random()];
  return box(random() < 0.5 ? '#ffffff' : '#6b6355', x, y, x + size, y + size * random());
});

const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}">
<defs>
<linearGradient id="wall" x1="0" y1="0" x2="1" y2="0.4"><stop offset="0" stop-color="#ddd6c6"/><stop offset="0.55" stop-color="#cfc7b5"/><stop offset="1" stop-color="#b3aa98"/></linearGradient>
<linearGradient id="door" x1="0" y1="0" x2="1" y2="0"><stop offset="0" stop-color="#8a6a45"/><stop offset="1" stop-color="#75583a"/></linearGradient>
<linearGradient id="floor" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#6d6a63"/><stop offset="1" stop-color="#8b877d"/></linearGradient>
<radialGradient id="vignette" cx="0.45" cy="0.4" r="0.8"><stop offset="0.55" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.28"/></radialGradient>
<filter id="soft"><feGaussianBlur stdDeviation="9"/></filter>
</defs>
<rect width="100%" height="100%" fill="url(#wall)"/>
<g opacity="0.035" filter="url(#soft)">${uneven.join('')}</g>
<polygon points="${points([
  [-4200, 0],
  [1500, 0],
  [1500, 0, 1900],
  [-4200, 0, 1900],
])}" fill="url(#floor)"/>
${[-3000, -2200, -1400, -600, 200, 1000]
  .map(
    (x) =>
      `<polyline points="${points([
        [x, 0],
        [x, 0, 1900],
      ])}" stroke="#5e5b54" stroke-width="2" opacity="0.5"/>`,
  )
  .join('')}
${box('#f0ece2', -4200, 0, LEFT - 70, 95, 14)}${box('#f0ece2', RIGHT + 70, 0, 1500, 95, 14)}
${box('#efe9dc', LEFT - 70, 0, RIGHT + 70, TOP + 70, 18)}
${polygon('#5b442c', [LEFT, 0, 18], [LEFT, TOP, 18], [LEFT, TOP, 0], [LEFT, 0, 0])}
${box('url(#door)', LEFT, 8, RIGHT, TOP)}
${box('#7d5f3e', LEFT + 130, 190, RIGHT - 130, 900)}${box('#7d5f3e', LEFT + 130, 1030, RIGHT - 130, TOP - 160)}
${box('#c9c4b8', RIGHT - 75, 960, RIGHT - 45, 1130, 8)}${box('#dedacf', RIGHT - 170, 1030, RIGHT - 50, 1052, 45)}
${box('#f7f4ec', 430, 1060, 511, 1141, 10)}${box('#e2ddd0', 455, 1075, 486, 1126, 14)}
<rect width="100%" height="100%" fill="url(#vignette)"/>
</svg>`;

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: WIDTH, height: HEIGHT } });
await page.setContent(`<body style="margin:0">${svg}</body>`);
await page.screenshot({ path: new URL('corridor.jpg', import.meta.url).pathname, type: 'jpeg', quality: 82 });
await browser.close();
console.log('The door, from its upper left corner clockwise:', points([[LEFT, TOP], [RIGHT, TOP], [RIGHT, 0], [LEFT, 0]])); // prettier-ignore
