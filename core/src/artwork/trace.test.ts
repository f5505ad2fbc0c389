import { describe, expect, it } from '@jest/globals';
import { PNG } from 'pngjs';
import { Random } from '../../testing/random.js';
import { ArtworkError } from './limits.js';
import { pictureSize } from './picture-size.js';
import { simplified } from '../geometry/index.js';
import { type GreyPicture, tracePicture } from './trace.js';

/** A picture of what lies within, smooth at its edges by 8 × 8 samples in each pixel. */
function picture(width: number, height: number, isInside: (x: number, y: number) => boolean): GreyPicture {
  const shades = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let inside = 0;
      for (let i = 0; i < 64; i++) if (isInside(x + ((i % 8) + 0.5) / 8, y + (Math.floor(i / 8) + 0.5) / 8)) inside++;
      shades[y * width + x] = 255 - Math.round((255 * inside) / 64);
    }
  return { width, height, shades };
}

const choice = { width: 100, threshold: 128, smoothing: 0, isLight: false, speck: 0 };
const disc = (cx: number, cy: number, r: number) => (x: number, y: number) => Math.hypot(x - cx, y - cy) < r;

describe('tracing', () => {
  it('a disc has the area of the textbook, where it lies in the picture', () => {
    const art = tracePicture(picture(200, 120, disc(60, 40, 30)), choice);
    // Half a millimetre a pixel.
    expect(art.colours).toHaveLength(1);
    expect(art.colours[0].areaMm2 / (225 * Math.PI)).toBeCloseTo(1, 2);
    const { minX, maxX, minY, maxY } = art.colours[0].box;
    expect([(minX + maxX) / 2, (minY + maxY) / 2]).toEqual([expect.closeTo(-20, 1), expect.closeTo(10, 1)]);
    expect([art.width, art.height]).toEqual([100, 60]);
    // Points lie within a fifth of a pixel of the circle.
    const ring = art.colours[0].outline[0];
    for (let i = 0; i < ring.length; i += 2) expect(Math.abs(Math.hypot(ring[i] + 20, ring[i + 1] - 10) - 15)).toBeLessThan(0.1);
  });

  it('keeps islands in holes, and traces what is light when asked', () => {
    const target = (x: number, y: number) => {
      const r = Math.hypot(x - 100, y - 100);
      return r < 20 || (r > 40 && r < 80);
    };
    const dark = tracePicture(picture(200, 200, target), choice);
    expect(dark.colours[0].areaMm2 / ((Math.PI * (6400 - 1600 + 400)) / 4)).toBeCloseTo(1, 2);
    expect(dark.colours[0].outline).toHaveLength(3);
    const light = tracePicture(picture(200, 200, target), { ...choice, isLight: true });
    expect(dark.colours[0].areaMm2 + light.colours[0].areaMm2).toBeLessThan(10_000);
    expect((dark.colours[0].areaMm2 + light.colours[0].areaMm2) / 10_000).toBeCloseTo(1, 1);
  });

  it('smoothing takes noise away and keeps the shape; specks are left out', () => {
    const clean = picture(200, 200, disc(100, 100, 60));
    const noisy = { ...clean, shades: Uint8Array.from(clean.shades) };
    for (let i = 0; i < 400; i++) noisy.shades[(i * 7919) % noisy.shades.length] ^= 255;
    const rough = tracePicture(noisy, choice).colours[0];
    const smooth = tracePicture(noisy, { ...choice, smoothing: 3 }).colours[0];
    expect(rough.outline.length).toBeGreaterThan(100);
    expect(smooth.outline.length).toBeLessThan(5);
    expect(smooth.areaMm2 / (900 * Math.PI)).toBeCloseTo(1, 1);
    const { colours, findings } = tracePicture(noisy, { ...choice, speck: 2 });
    expect(colours[0].outline.length).toBeLessThan(rough.outline.length);
    expect(findings[0].kind).toBe('speck');
  });

  it('refuses what has nothing in it or is not what it says', () => {
    const blank = picture(20, 20, () => false);
    expect(() => tracePicture(blank, choice)).toThrow(ArtworkError);
    expect(() => tracePicture({ ...blank, width: 21 }, choice)).toThrow('21 × 20 pixels');
    expect(() => tracePicture({ width: 3000, height: 3000, shades: new Uint8Array(9e6) }, choice)).toThrow('make it smaller');
  });

  it('a line keeps within the distance that points may stray', () => {
    const wave = Array.from({ length: 400 }, (_, i) => {
      const t = (i / 400) * 2 * Math.PI;
      return [(100 + 5 * Math.sin(9 * t)) * Math.cos(t), (100 + 5 * Math.sin(9 * t)) * Math.sin(t)];
    }).flat();
    const fewer = simplified(wave, 0.5);
    expect(fewer.length).toBeLessThan(wave.length / 3);
    for (let i = 0; i < wave.length; i += 2) {
      let nearest = Infinity;
      for (let j = 0; j < fewer.length; j += 2) {
        const k = (j + 2) % fewer.length;
        const [ax, ay, dx, dy] = [fewer[j], fewer[j + 1], fewer[k] - fewer[j], fewer[k + 1] - fewer[j + 1]];
        const t = Math.max(0, Math.min(1, ((wave[i] - ax) * dx + (wave[i + 1] - ay) * dy) / (dx * dx + dy * dy)));
        nearest = Math.min(nearest, Math.hypot(wave[i] - ax - t * dx, wave[i + 1] - ay - t * dy));
      }
      expect(nearest).toBeLessThanOrEqual(0.5 + 1e-9);
    }
  });
});

describe('sizes of pictures', () => {
  it('are read from their files', () => {
    const png = PNG.sync.write(new PNG({ width: 31, height: 17 }));
    expect(pictureSize(png)).toEqual({ width: 31, height: 17 });
    const jpeg = Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, 0, 4, 1, 2, 0xff, 0xc2, 0, 11, 8, 0, 50, 1, 44, 3, 1, 2, 3, 4]);
    expect(pictureSize(jpeg)).toEqual({ width: 300, height: 50 });
    expect(() => pictureSize(Uint8Array.from([1, 2, 3]))).toThrow('neither PNG nor JPEG');
    expect(() => pictureSize(png.subarray(0, 12))).toThrow('damaged');
    const vast = Uint8Array.from(png);
    vast[16] = 0x7f;
    expect(() => pictureSize(vast)).toThrow('make it smaller');
  });
});

describe('noise', () => {
  it('is refused at once and with what to do', () => {
    const size = 1600;
    const random = new Random(3);
    const shades = Uint8Array.from({ length: size * size }, () => (random.chance(0.5) ? 0 : 255));
    const choice = { width: 200, threshold: 128, smoothing: 0, isLight: false, speck: 0 };
    expect(() => tracePicture({ width: size, height: size, shades }, choice)).toThrow(/full of dots and edges.*smooth it more/u);
  });
});
