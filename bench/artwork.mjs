// Taking a drawing over, against the general geometry library joining the same outlines; plain Node.js, as in bench/core.mjs.
import { importArtwork } from '@plain-relief/core/artwork';
import ManifoldModule from 'manifold-3d';

const m = await ManifoldModule();
m.setup();

/** A logo of overlapping rosettes with about so many straight segments, in three colours. */
function rosettes(segments) {
  const each = 200;
  const runs = Array.from({ length: segments / each }, (_, k) =>
    Array.from({ length: each }, (_, i) => {
      const t = (i / each) * 2 * Math.PI;
      const r = 26 + 5 * Math.sin(9 * t + k);
      return [20 + (k % 10) * 40 + r * Math.cos(t), 20 + Math.floor(k / 10) * 40 + r * Math.sin(t)];
    }),
  );
  const paths = runs.map(
    (run, k) =>
      `<path fill="${['#024', '#842', '#6a8'][k % 3]}" d="M${run.map((point) => point.map((c) => c.toFixed(3)).join(' ')).join('L')}Z"/>`,
  );
  return {
    runs,
    svg: `<svg xmlns="http://www.w3.org/2000/svg" width="420mm" height="420mm" viewBox="0 0 420 420">${paths.join('')}</svg>`,
  };
}

function median(runs, work) {
  const times = [];
  for (let i = -1; i < runs; i++) {
    const began = performance.now();
    work();
    if (i >= 0) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
}

const { runs, svg } = rosettes(20_000);
let colours = 0;
const ours = median(5, () => (colours = importArtwork('svg', svg).colours.length));
// What the library does for the same question: every colour less all that is painted over it, one rosette after the other.
const theirs = median(3, () => {
  const seen = [];
  for (const run of runs) {
    const shape = new m.CrossSection([run], 'NonZero');
    for (let i = 0; i < seen.length; i++) {
      const cut = seen[i].subtract(shape);
      seen[i].delete();
      seen[i] = cut;
    }
    seen.push(shape);
  }
  seen.forEach((shape) => shape.delete());
});
console.log(
  `import of a drawing of 20 000 segments in ${colours} colours: ${ours.toFixed(0)} ms, ` +
    `the overlaps alone by the general library ${theirs.toFixed(0)} ms: ×${(theirs / ours).toFixed(1)}`,
);
