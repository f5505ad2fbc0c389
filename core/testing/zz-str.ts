import { importArtwork } from '../src/artwork/index.js';
import { Random } from './random.js';
import { referee } from './referee.js';
const m = await referee();
const joins = ['miter', 'round', 'bevel'], caps = ['butt', 'round', 'square'];
let bad = 0, area = 0;
for (let seed = 1; seed <= 1500; seed++) {
  const r = new Random(seed); const n = 1 + Math.floor(r.unit() * 5); const c = () => (r.unit() * 100).toFixed(r.unit() < 0.3 ? 0 : 3);
  let d = `M${c()} ${c()}`; for (let i = 0; i < n; i++) { const k = r.unit(); d += k < 0.4 ? `L${c()} ${c()}` : k < 0.7 ? `C${c()} ${c()} ${c()} ${c()} ${c()} ${c()}` : k < 0.85 ? `Q${c()} ${c()} ${c()} ${c()}` : `A${c()} ${c()} 0 ${+(r.unit() < 0.5)} ${+(r.unit() < 0.5)} ${c()} ${c()}`; } if (r.unit() < 0.3) d += 'Z';
  const w = (10 ** (r.unit() * 2 - 1)).toFixed(3);
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><path d="${d}" fill="none" stroke="#000" stroke-width="${w}" stroke-linejoin="${joins[seed % 3]}" stroke-linecap="${caps[(seed / 3 | 0) % 3]}"/></svg>`;
  let a; try { a = importArtwork('svg', svg); } catch (e) { console.log(seed, String(e), svg); continue; }
  for (const { outline, areaMm2 } of a.colours) {
    for (const ring of outline) for (let i = 0; i < ring.length; i += 2) {
      const n = ring.length; const [px, py] = [ring[(i + n - 2) % n], ring[(i + n - 1) % n]]; const [qx, qy] = [ring[(i + 2) % n], ring[(i + 3) % n]]; const [x, y] = [ring[i], ring[i + 1]];
      const [ux, uy, vx, vy] = [x - px, y - py, qx - x, qy - y]; const t = Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)) * 180 / Math.PI;
      if (t > 179.5) { bad++; console.log(seed, joins[seed % 3], caps[(seed / 3 | 0) % 3], w, x.toFixed(4), y.toFixed(4), t.toFixed(3), Math.hypot(ux, uy).toFixed(4), Math.hypot(vx, vy).toFixed(4), d.length); }
    }
  }
}
console.log('bad', bad);
