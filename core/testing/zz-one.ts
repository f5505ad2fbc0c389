import { importArtwork } from '../src/artwork/index.js';
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><path d="M11.265 21A0.635 80 0 1 1 78.795 30.430" fill="none" stroke="#000" stroke-width="0.161" stroke-linejoin="miter" stroke-linecap="round"/></svg>`;
const a = importArtwork('svg', svg); console.log(a.colours.length, a.colours[0].outline.length, a.colours[0].areaMm2);
