/** Drawings made for the tests: every shape, command, transform and stroke that a logo may come with. 200 × 200 user units. */
const svg = (body: string, attributes = 'width="200" height="200" viewBox="0 0 200 200"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;

const star = 'M100 20L147 165L23 75H177L53 165Z';
const wave = 'M20 100C40 20 80 20 100 100S160 180 180 100';
const stroked = (join: string, cap: string, more = ''): string =>
  svg(
    `<path d="M30 160L60 40L100 150L120 60H170" fill="none" stroke="#246" stroke-width="18" stroke-linejoin="${join}" stroke-linecap="${cap}" ${more}/>`,
  );

export const DRAWINGS: Readonly<Record<string, string>> = {
  rectangles: svg(
    '<rect x="20" y="20" width="70" height="60" fill="#135"/><rect x="100" y="30" width="80" height="50" rx="20" fill="#a40"/><rect x="30" y="100" width="140" height="80" rx="60" ry="20"/>',
  ),
  'circle and ellipse': svg(
    '<circle cx="60" cy="60" r="40" fill="teal"/><ellipse cx="130" cy="130" rx="60" ry="30" fill="crimson"/>',
  ),
  'line, polyline, polygon': svg(
    '<line x1="10" y1="10" x2="190" y2="60" stroke="black" stroke-width="8"/><polyline points="20,80 60,120 100,80 140,120" fill="gold"/><polygon points="100,130 180,190 20,190" fill="navy"/>',
  ),
  'non-zero star': svg(`<path d="${star}" fill="#333"/>`),
  'even-odd star': svg(`<path d="${star}" fill="#333" fill-rule="evenodd"/>`),
  'rings by direction': svg('<path d="M20 20H180V180H20ZM60 60V140H140V60Z" fill="#060"/>'),
  'rings of one direction': svg('<path d="M20 20H180V180H20ZM60 60H140V140H60Z" fill="#060"/>'),
  'relative commands': svg('<path d="m30 30l40 0l0 40l-40 0zm60 0h50v50h-50zm-60 80q40 -40 80 0t80 0v60h-160z" fill="#417"/>'),
  'smooth curves': svg(`<path d="${wave}V190H20Z" fill="#728"/>`),
  'reflected quadratics': svg('<path d="M10 100Q30 40 60 100T110 100T160 100T190 100V190H10Z" fill="#185"/>'),
  'arcs with every flag': svg(
    '<path d="M40 60A30 20 0 0 0 90 60Z" fill="#a00"/><path d="M110 60A30 20 0 0 1 160 60Z" fill="#0a0"/><path d="M40 130A30 40 30 1 0 90 130Z" fill="#00a"/><path d="M110 130A30 40 30 1 1 160 130Z" fill="#aa0"/>',
  ),
  'flags without spaces': svg('<path d="M30 100a40 40 0 1180 0 40 40 0 01-80 0zm90 20a20,20 0 0020,20h30v-60z" fill="#357"/>'),
  'arcs too small for their chord': svg('<path d="M40 100A10 10 0 0 1 160 100L100 180Z" fill="#953"/>'),
  'numbers run together': svg(
    '<path d="M20.5.5-.5 60L60-.0.5.5ZM100 100l.5e2.5 0 5e1-50 0z" transform="translate(10 10)" fill="#222"/>',
  ),
  translated: svg('<rect width="60" height="40" transform="translate(70,80)" fill="#26a"/>'),
  'turned about a point': svg('<rect x="60" y="80" width="80" height="40" transform="rotate(33 100 100)" fill="#26a"/>'),
  skewed: svg('<rect x="40" y="60" width="70" height="60" transform="skewX(25) skewY(-8)" fill="#26a"/>'),
  'by a matrix': svg('<circle cx="40" cy="40" r="30" transform="matrix(1.4 .5 -.3 .9 50 30)" fill="#26a"/>'),
  'turned over': svg(
    '<g transform="translate(200 0) scale(-1 1)"><path d="M20 20H120L60 180Z" fill="#d60" stroke="#111" stroke-width="9"/></g>',
  ),
  'five deep': svg(
    '<g transform="translate(100 100)"><g transform="rotate(20)"><g transform="scale(1.3 .8)"><g transform="skewX(12)"><g transform="translate(-20 -10)"><rect x="-40" y="-40" width="100" height="80" rx="12" fill="#185" stroke="#a3c" stroke-width="6"/></g></g></g></g></g>',
  ),
  'used again': svg(
    '<defs><g id="leaf"><path d="M0 0C20-30 50-30 60 0C50 30 20 30 0 0Z"/></g></defs><use href="#leaf" x="20" y="50" fill="#283"/><use xlink:href="#leaf" transform="translate(180 150) rotate(180)" fill="#b52"/>',
  ),
  'a symbol': svg(
    '<symbol id="s" viewBox="0 0 10 10"><circle cx="5" cy="5" r="5"/></symbol><use href="#s" x="20" y="20" width="80" height="80" fill="#05a"/><use href="#s" x="110" y="60" width="70" height="120" fill="#a50"/>',
  ),
  'a drawing in a drawing': svg(
    '<svg x="30" y="40" width="120" height="60" viewBox="0 0 40 40" preserveAspectRatio="xMaxYMid slice"><rect width="40" height="40" fill="#9cf"/><circle cx="20" cy="20" r="24" fill="#147"/></svg>',
  ),
  'a view box that does not fit': svg(
    '<rect width="100" height="100" fill="#ccc"/><path d="M10 10H90L50 90Z" fill="#900"/>',
    'width="200" height="200" viewBox="-20 0 140 100" preserveAspectRatio="xMinYMax"',
  ),
  'inherited and overridden': svg(
    '<g fill="#a00" stroke="#000" stroke-width="6"><rect x="20" y="20" width="60" height="60"/><g fill="#0a0"><circle cx="140" cy="50" r="30"/><rect x="40" y="110" width="120" height="60" fill="none"/></g></g>',
  ),
  'a style sheet': svg(
    '<style>rect{fill:#0aa}.dark{fill:#124}#one{fill:#fa0}path.dark{fill:#511}</style><rect x="10" y="10" width="80" height="80"/><rect class="dark" x="100" y="10" width="80" height="80"/><rect id="one" class="dark" x="10" y="100" width="80" height="80"/><path class="dark" d="M110 110H180L140 180Z" style="stroke:#0f0;stroke-width:5"/>',
  ),
  'colours in every way': svg(
    '<rect width="60" height="60" fill="rgb(200,30,40)"/><rect x="70" width="60" height="60" fill="hsl(200,60%,40%)"/><rect x="140" width="60" height="60" fill="rebeccapurple"/><g color="#0b5"><rect y="80" width="60" height="60" fill="currentColor"/></g><rect x="70" y="80" width="60" height="60" fill="#F0C"/>',
  ),
  'hidden things': svg(
    '<rect x="20" y="20" width="60" height="60" display="none"/><g visibility="hidden"><rect x="100" y="20" width="60" height="60"/><rect x="100" y="100" width="60" height="60" visibility="visible" fill="#345"/></g><rect x="20" y="100" width="60" height="60" opacity="0"/>',
  ),
  'clipped by a circle': svg(
    '<clipPath id="c"><circle cx="100" cy="100" r="60"/></clipPath><rect x="20" y="60" width="160" height="90" fill="#372" clip-path="url(#c)"/>',
  ),
  'clipped by its own box': svg(
    '<clipPath id="c" clipPathUnits="objectBoundingBox"><path d="M.5 0L1 1H0Z"/></clipPath><rect x="30" y="40" width="140" height="120" fill="#372" clip-path="url(#c)"/>',
  ),
  'a group clipped twice': svg(
    '<clipPath id="a"><rect x="40" y="40" width="120" height="120"/></clipPath><clipPath id="b"><path d="M100 20L180 180H20Z M100 80L70 140H130Z" clip-rule="evenodd"/></clipPath><g clip-path="url(#a)"><circle cx="100" cy="110" r="80" fill="#b28" clip-path="url(#b)"/></g>',
  ),
  'mitred, butt': stroked('miter', 'butt'),
  'mitred to a limit': stroked('miter', 'square', 'stroke-miterlimit="1.5"'),
  'round, round': stroked('round', 'round'),
  'bevelled, square': stroked('bevel', 'square'),
  'a stroke on curves': svg(
    `<path d="${wave}" fill="none" stroke="#a22" stroke-width="26"/><path d="M30 180A70 70 0 0 1 170 180" fill="none" stroke="#22a" stroke-width="10" stroke-linecap="round"/>`,
  ),
  'a stretched stroke': svg(
    '<g transform="scale(2 .7)"><path d="M15 40L50 240L85 60" fill="none" stroke="#055" stroke-width="14" stroke-linejoin="round" stroke-linecap="square"/></g>',
  ),
  dots: svg(
    '<path d="M40 40h0M100 40z" stroke="#111" stroke-width="40" stroke-linecap="round"/><path d="M40 120h0" stroke="#111" stroke-width="40" stroke-linecap="square"/><path d="M120 120h0" stroke="#111" stroke-width="40"/>',
  ),
  'painted over': svg(
    '<rect width="200" height="200" fill="#024"/><circle cx="100" cy="100" r="80" fill="#fc0"/><path d="M60 60H140V140H60Z" fill="#024"/><circle cx="100" cy="100" r="20" fill="#fff"/>',
  ),
  percents: svg('<rect x="10%" y="20%" width="50%" height="30%" fill="#248"/><circle cx="70%" cy="70%" r="20%" fill="#842"/>'),
  units: svg('<rect x="5mm" y="0.2in" width="30mm" height="40pt" fill="#4a2"/>'),
  'open outlines, filled': svg(
    '<path d="M30 30L170 50L120 170" fill="#777"/><polyline points="20,120 60,190 100,150" fill="#a7a" stroke="#000" stroke-width="4"/>',
  ),
};
