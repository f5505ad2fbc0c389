import { readFileSync } from 'node:fs';
import { importArtwork } from '../src/artwork/index.js';
for (const f of process.argv.slice(2)) {
  const a = importArtwork(f.endsWith('dxf') ? 'dxf' : 'svg', readFileSync(f, 'utf8'));
  for (const { colour, outline, areaMm2 } of a.colours) {
    let spikes = 0, least: any[] = [], pts = 0;
    for (const ring of outline) for (let i = 0; i < ring.length; i += 2) { pts++;
      const n = ring.length; const [px, py] = [ring[(i + n - 2) % n], ring[(i + n - 1) % n]]; const [qx, qy] = [ring[(i + 2) % n], ring[(i + 3) % n]]; const [x, y] = [ring[i], ring[i + 1]];
      const [ux, uy, vx, vy] = [x - px, y - py, qx - x, qy - y]; const t = Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)) * 180 / Math.PI;
      if (t > 179.5) { spikes++; least.push([x.toFixed(3), y.toFixed(3), t.toFixed(3), Math.hypot(ux, uy).toFixed(3), Math.hypot(vx, vy).toFixed(3)].join(' ')); }
    }
    console.log(f.split('/').pop(), colour, outline.length, 'rings', pts, 'points', areaMm2.toFixed(4), 'spikes', spikes, least.slice(0, 5));
  }
}
