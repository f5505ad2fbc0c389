import { plainWords } from '../../type/index.js';
import { actionOf } from '../document/actions.js';
import { type PartExtent, spacedRow } from '../document/copies.js';
import { setBraille } from './braille-fields.js';
import { bringOnFace } from '../support/places-on-faces.js';
import { bringRound } from '../support/places-round.js';
import { followRound, goLevel, setSupport, spaceAllRound } from './support-fields.js';
import { setCode } from './code-fields.js';
import { movedLetters } from './letters-by-hand.js';
import { setKindsOfHardware } from '../ticket/hardware.js';
import { chooseFinish } from '../document/finishes.js';
import { extentOfCodeShape } from '../document/code-symbol.js';
import { baseLevels, type Side, sideOf, tierLevel } from '../document/levels.js';
import { extentOfShape, sectorWithin, sizeAbout } from '../document/new-sign.js';
import { NO_FEATURES } from '../ticket/text-sentences.js';
import { type Backer, type Blank, type BlankEdge } from '../document/schema-blank.js';
import {
  type Action,
  type Area,
  type Bridges,
  type Copies,
  type Edge,
  type Finish,
  type Part,
  type Shape,
  type Sign,
  type TextFrame,
  type TextPart,
  type TextPath,
  type Tier,
} from '../document/schema.js';
import { type FieldPath } from '../ticket/sentence.js';
import { hostFrom } from '../ticket/ticket.js';

/** Sizes of a text as it stands, from which a new kind of size begins. */
export interface SeenText {
  readonly width: number;
  readonly height: number;
  readonly capHeight: number;
  readonly em: number;
  /** Percent. */
  readonly stretch: number;
}

/** What is known of the part that a field belongs to, and of the shop. */
export interface Around {
  /** Sizes of a text as it stands. */
  readonly seen?: SeenText;
  /** Of one of a part's copies, in mm. */
  readonly extent?: PartExtent;
  /** Finishes of the shop. */
  readonly finishes?: readonly Finish[];
}

type Holder = Record<string | number, unknown>;

/**
 * Sets a field of the ticket in a sign that may be changed. A choice of kind is turned into what it stands for, keeping as much
 * of the look as can be: another kind of size has the same letters, another shape the same extent.
 * @param around what the values begin from where it is known
 */
export function setField(sign: Sign, path: FieldPath, value: unknown, around: Around = {}): void {
  const { seen, finishes = [] } = around;
  const last = path[path.length - 1];
  const part = path[0] === 'parts' ? sign.parts[path[1] as number] : undefined;
  const owner = path[path.length - 2];
  if (path[0] === 'support') setSupport(sign, path, plainValue(value));
  else if (path[0] === 'blank' && path[1] === 'outline' && last === 'width' && followRound(sign, plainValue(value) as number))
    return;
  else if (part && last === 'round' && owner === 'place') {
    if (sign.support) bringRound(sign.support, part, plainValue(value) as number);
  } else if (part && owner === 'place' && (last === 'face' || last === 'faceAcross' || last === 'faceUp')) {
    const to = plainValue(value);
    bringOnFace(
      sign.support,
      part,
      last === 'face' ? { face: to as string } : { [last === 'faceAcross' ? 'x' : 'y']: to as number },
    );
  } else if (part && last === 'evenly' && owner === 'copies') spaceAllRound(sign, part, value === 'round');
  else if (last === 'sitsOn') {
    if (part) part.sitsOn = hostFrom(value as string);
  } else if (last === 'kind' && owner === 'action') {
    const tier = holderOf(sign, path.slice(0, -2)) as { action: Action };
    tier.action = actionOf(value as Action['kind'], tier.action);
  } else if (last === 'kind' && path[1] === 'cutTo') {
    setCutTo(sign, owner as string, value as string);
  } else if (path[1] === 'cutTo' && path[2] === 'backer' && sign.blank.cutTo?.backer?.kind === 'bar') {
    setBar(sign.blank.cutTo.backer, path.slice(3), value);
  } else if (last === 'kind' && owner === 'heightLimit') {
    if (value === 'limited') sign.heightLimit ??= highestAsked(sign);
    else delete sign.heightLimit;
  } else if (last === 'kind' && path[0] === 'hardware') {
    setKindsOfHardware(sign, Number(value));
  } else if (part && last === 'cutOut') {
    cutOut(sign, part.id, value === 'out');
  } else if (last === 'projected' || last === 'flat' || last === 'dimensioned') {
    const holder = holderOf(sign, path.slice(0, -1)) as Holder;
    if (value === 'true') holder[last] = true;
    else delete holder[last];
  } else if (part && last === 'side' && path.length === 3) {
    setSide(sign, part, value as Side);
  } else if (last === 'kind' && owner === 'laminate') {
    if (value === 'laminate') sign.blank.laminate ??= { cap: 0.2, capColour: 'white', coreColour: 'black' };
    else delete sign.blank.laminate;
  } else if (last === 'kind' && owner === 'area') {
    const tier = holderOf(sign, path.slice(0, -2)) as Tier;
    tier.area = areaOf(value as Area['kind'] | 'shrunk', tier.area);
  } else if (last === 'shrunkBy' && owner === 'area') {
    (holderOf(sign, path.slice(0, -1)) as Extract<Area, { kind: 'offset' }>).by = -(plainValue(value) as number);
  } else if (last === 'flats') {
    const shape = holderOf(sign, path.slice(0, -1)) as Extract<Shape, { kind: 'polygon' }>;
    shape.diameter = tidy((plainValue(value) as number) / Math.cos(Math.PI / shape.sides));
  } else if (last === 'scales' && owner === 'area' && part) {
    setScales(holderOf(sign, path.slice(0, -1)) as Area, value === 'true', part, seen);
  } else if (part && last === 'kind' && owner === 'bridges') {
    if (value === 'bridged') part.bridges ??= bridgesFor(part);
    else delete part.bridges;
  } else if (owner === 'finish') {
    const holder = holderOf(sign, path.slice(0, -2)) as { finish?: Record<string, string> };
    chooseFinish(sign, holder, last as string, value as string, finishes);
  } else if (last === 'kind' && (owner === 'edge' || owner === 'backEdge')) {
    const holder = holderOf(sign, path.slice(0, -2)) as { edge?: Edge | BlankEdge; backEdge?: Edge | BlankEdge };
    const edge = edgeOf(value as Edge['kind'], holder[owner], path[0] === 'blank');
    if (edge) holder[owner] = edge;
    else delete holder[owner];
  } else if (last === 'kind' && path[0] === 'blank') {
    sign.blank.outline = shapeOf(value as Shape['kind'], sign.blank.outline) as Blank['outline'];
  } else if (part?.kind === 'shape' && part.shape.kind === 'braille' && owner === 'shape') {
    setBraille(sign, part, part.shape, last as string, value);
  } else if (part?.kind === 'shape' && part.shape.kind === 'code' && owner === 'shape') {
    setCode(part.shape, last as string, value);
  } else if (part?.kind === 'shape' && last === 'kind' && owner === 'shape') {
    part.shape = shapeOf(value as Shape['kind'], part.shape);
  } else if (part && last === 'kind' && owner === 'copies') {
    setCopies(part, value as string, sign, around);
  } else if (part && owner === 'copies' && (last === 'gap' || last === 'over')) {
    if (part.copies?.kind === 'row' && around.extent)
      part.copies = spacedRow(part.copies, last, plainValue(value) as number, around.extent);
  } else if (part?.kind === 'text' && setTextField(sign, part, path, value, seen)) return;
  else (holderOf(sign, path.slice(0, -1)) as Holder)[last] = plainValue(value);
}

/** The highest level that any tier is to come to, at least 1 mm. */
const highestAsked = (sign: Sign): number => {
  const bases = baseLevels(sign);
  const levels = sign.parts.flatMap((part) => part.tiers.map((tier) => tierLevel(tier, bases.get(part.id) ?? 0)));
  return Math.max(1, ...levels.filter(Number.isFinite));
};

/** Turns a part over to the other side, where it sits on the face; parts that sat on it sit on theirs. */
function setSide(sign: Sign, part: Part, side: Side): void {
  if (sideOf(part) === side) return;
  if (side === 'back') part.side = 'back';
  else delete part.side;
  part.sitsOn = { kind: 'face' };
  for (const other of sign.parts)
    if (other.sitsOn.kind === 'part' && other.sitsOn.part === part.id) other.sitsOn = { kind: 'face' };
}

/** Takes a part among those that the blank is cut to, or out of them; without any the blank is whole. */
export function cutOut({ blank }: Sign, id: string, isOut: boolean): void {
  const others = blank.cutTo?.parts.filter((part) => part !== id) ?? [];
  const parts = isOut ? [...others, id] : others;
  if (parts.length > 0) blank.cutTo = { ...blank.cutTo, parts };
  else delete blank.cutTo;
}

/** What is left of the blank, and what is done to its letters from behind. */
function setCutTo(sign: Sign, what: string, value: string): void {
  const { blank } = sign;
  if (what === 'cutTo') {
    const parts = lettersOf(sign);
    if (value === 'letters' && parts.length > 0) blank.cutTo ??= { parts };
    else delete blank.cutTo;
    return;
  }
  const { cutTo, thickness } = blank;
  if (!cutTo) return;
  if (what === 'hollow') {
    if (value === 'hollow') cutTo.hollow ??= { wall: tidy(Math.min(3, thickness / 4)), face: tidy(Math.min(3, thickness / 4)) };
    else delete cutTo.hollow;
  } else if (what === 'studs') {
    if (value === 'studs') cutTo.studs ??= { diameter: 4, depth: tidy(thickness * 0.6), edge: 2, count: 2 };
    else delete cutTo.studs;
  } else if (value === 'none') delete cutTo.backer;
  else if (value !== cutTo.backer?.kind) cutTo.backer = backerOf(value as Backer['kind'], sign);
}

/** A field of the bar behind letters; what is as it would be without saying is not said. */
function setBar(bar: Extract<Backer, { kind: 'bar' }>, [field, of]: FieldPath, value: unknown): void {
  if (field === 'beyond') {
    const beyond = { ...(bar.beyond ?? { left: 0, right: 0 }), [of]: value };
    if (beyond.left === 0 && beyond.right === 0) delete bar.beyond;
    else bar.beyond = beyond;
  } else if (field === 'ends') {
    if (value === 'round') bar.ends = 'round';
    else delete bar.ends;
  } else if (field === 'hole' && of === 'end') {
    if (value === 'none') delete bar.hole;
    else setHoleOfBar(bar, value as 'left' | 'right');
  } else if (field === 'hole') (bar.hole as unknown as Holder)[of] = value;
  else (bar as unknown as Holder)[field] = value;
}

/** A hole for a strap or a ring: half as wide as the bar is high and as far from its end, for which the bar is made longer where it must be. */
function setHoleOfBar(bar: Extract<Backer, { kind: 'bar' }>, end: 'left' | 'right'): void {
  const diameter = bar.hole?.diameter ?? tidy(bar.height / 2);
  const edge = bar.hole?.edge ?? tidy(bar.height / 4);
  const beyond = bar.beyond ?? { left: 0, right: 0 };
  bar.hole = { diameter, end, edge };
  bar.beyond = { ...beyond, [end]: Math.max(beyond[end], tidy(diameter + 2 * edge)) };
}

/** The parts that letters are cut from: texts, or where there are none all shapes with an area of their own. */
function lettersOf(sign: Sign): string[] {
  const front = sign.parts.filter((part) => sideOf(part) === 'front');
  const texts = front.filter((part) => part.kind === 'text');
  const shapes = front.filter((part) => part.kind === 'shape' && part.shape.kind !== 'border' && part.shape.kind !== 'fixings');
  return (texts.length > 0 ? texts : shapes).map(({ id }) => id);
}

/** A plate behind letters to begin with: as wide a margin, or a bar as high, as suits their height. */
export function backerOf(kind: Backer['kind'], sign: Sign): Backer {
  const texts = sign.parts.filter((part) => part.kind === 'text');
  const height = Math.max(10, ...texts.map(sizeAbout));
  const thickness = tidy(Math.max(2, sign.blank.thickness / 3));
  if (kind === 'grown') return { kind, margin: Math.ceil(height / 5), thickness };
  return { kind, y: tidy(texts[0]?.place.y ?? 0), height: Math.ceil(height / 4), thickness };
}

const holderOf = (sign: Sign, path: FieldPath): unknown => path.reduce((at: unknown, step) => (at as Holder)[step], sign);

/** Choices are words; yes and no are kept as such. */
const plainValue = (value: unknown): unknown => (value === 'true' ? true : value === 'false' ? false : value);

function setTextField(sign: Sign, part: TextPart, path: FieldPath, value: unknown, seen?: SeenText): boolean {
  const field = path[2];
  const last = path[path.length - 1];
  if (field === 'words') {
    const words = plainWords(value as string);
    if (part.letters) part.letters = movedLetters(part.letters, plainWords(part.words), words);
    part.words = words;
    return true;
  }
  if (field === 'size' && last === 'kind') {
    part.size = sizeOf(value as TextPart['size']['kind'], part, seen);
    return true;
  }
  if (field === 'features') {
    part.features = { ...(part.features ?? NO_FEATURES), [last]: value === 'true' };
    return true;
  }
  if (field === 'frame' && last === 'kind' && path.length === 4) {
    if (value === 'frame') part.frame ??= newFrame(sign, seen, part);
    else delete part.frame;
    return true;
  }
  if (field === 'frame' && path[3] === 'fit' && last === 'kind') {
    if (part.frame) part.frame.fit = fitWith(part.frame.fit, path[4] as number, value as string);
    return true;
  }
  if (field === 'path' && last === 'kind') {
    if (value === 'level') {
      goLevel(sign, part);
      return true;
    }
    const line = pathOf(value as string, sign, part, seen);
    if (line?.kind === 'arc' && part.path?.kind !== 'arc') return aroundTheSame(sign, part, line);
    if (line) part.path = line;
    else delete part.path;
    return true;
  }
  return false;
}

function sizeOf(kind: TextPart['size']['kind'], { size }: TextPart, seen: SeenText | undefined): TextPart['size'] {
  if (!seen || seen.width === 0) return size;
  const stretch = size.kind === 'seen' ? tidy(seen.stretch) : size.stretch;
  switch (kind) {
    case 'capitals':
      return { kind, height: tidy(seen.capHeight), stretch };
    case 'em':
      return { kind, size: tidy(seen.em), stretch };
    case 'seen-width':
      return { kind, width: tidy(seen.width), stretch };
    case 'seen-height':
      return { kind, height: tidy(seen.height), stretch };
    case 'seen':
      return { kind, width: tidy(seen.width), height: tidy(seen.height) };
  }
}

const tidy = (value: number): number => Number(value.toFixed(3));

/** A frame as wide as the blank allows and a little higher than the words, with the ways of fitting in the order of their harm. */
function newFrame(sign: Sign, seen: SeenText | undefined, part: TextPart): TextFrame {
  const room = roomAbout(sign, part);
  const width = 2 * room.across * BLANK_SHARE;
  const height = Math.min(2 * room.up * BLANK_SHARE, seen && seen.width > 0 ? seen.height * 1.2 : 40);
  const none = { kind: 'length', length: 0 } as const;
  return {
    width: Math.max(1, tidy(width)),
    height: Math.max(1, tidy(height)),
    marginAcross: none,
    marginUp: none,
    upright: 'middle',
    fit: [
      { kind: 'tighten', floor: Math.min(part.tracking, -3) },
      { kind: 'narrow', floor: 80 },
      { kind: 'reduce', floor: 60 },
    ],
  };
}

/** Bridges to begin with: two, up and down, a tenth of the letters' height wide and at least 1.5 mm. */
export function bridgesFor(part: Part): Bridges {
  const height = part.kind === 'text' ? sizeAbout(part) : 20;
  return { width: Math.max(1.5, tidy(Math.round(height) / 10)), count: 2, turn: 90 };
}

/** Another area of the same reach. */
function areaOf(kind: Area['kind'] | 'shrunk', before: Area): Area {
  if (kind === before.kind && !(before.kind === 'offset' && before.by < 0)) return before;
  const reach = before.kind === 'outline' ? 1 : Math.abs(before.kind === 'offset' ? before.by : before.width) || 1;
  const more =
    before.kind === 'outline'
      ? {}
      : { ...(before.corners && { corners: before.corners }), ...(before.scales && { scales: true }) };
  switch (kind) {
    case 'outline':
      return { kind };
    case 'offset':
      return { kind, by: reach, ...more };
    case 'shrunk':
      return { kind: 'offset', by: -reach, ...more };
    case 'stroke':
      return { kind, width: reach, side: 'outside', ...more };
  }
}

/** Changes an amount between mm and percent of the part's height, keeping its size. */
function setScales(area: Area, scales: boolean, part: Part, seen: SeenText | undefined): void {
  if (area.kind === 'outline' || scales === (area.scales ?? false)) return;
  const { shape } = part.kind === 'shape' ? part : { shape: undefined };
  const whole = !shape
    ? (seen?.capHeight ?? 0)
    : shape.kind === 'code'
      ? extentOfCodeShape(shape).height
      : 'height' in shape
        ? shape.height
        : 'diameter' in shape
          ? shape.diameter
          : 0;
  const factor = whole > 0 ? (scales ? 100 / whole : whole / 100) : 1;
  if (area.kind === 'offset') area.by = tidy(area.by * factor);
  else area.width = tidy(area.width * factor);
  if (scales) area.scales = true;
  else delete area.scales;
}

/** Another edge form of about the same size; none for an upright edge. */
function edgeOf<E extends Edge | BlankEdge>(
  kind: Edge['kind'] | 'upright' | 'none',
  before: E | undefined,
  isBlank: boolean,
): Edge | BlankEdge | undefined {
  if (kind === 'upright' || kind === 'none') return undefined;
  if (kind === before?.kind) return before;
  const size = before && 'radius' in before ? before.radius : before && 'width' in before ? before.width : isBlank ? 3 : 1;
  switch (kind) {
    case 'sloped':
      return { kind, angle: 10, sized: 'foot' };
    case 'ridged':
      return { kind, angle: 90, capped: false };
    case 'chamfered':
      return { kind, width: size, height: size };
    case 'domed':
      return { kind, width: size };
    case 'rounded':
    case 'cove':
      return { kind, radius: size };
  }
}

type Fit = TextFrame['fit'][number];

const FIRST_FLOORS: Readonly<Record<Fit['kind'], Fit>> = {
  tighten: { kind: 'tighten', floor: -3 },
  narrow: { kind: 'narrow', floor: 80 },
  reduce: { kind: 'reduce', floor: 60 },
  wrap: { kind: 'wrap', lines: 2 },
};

/** The ways of fitting with another at a place; one that stood elsewhere changes places with what was there. */
function fitWith(fit: TextFrame['fit'], at: number, kind: string): TextFrame['fit'] {
  const out = [...fit];
  if (kind === 'none') return out.filter((_, i) => i !== at);
  const there = out.findIndex((step) => step.kind === kind);
  const step = there >= 0 ? out[there] : FIRST_FLOORS[kind as Fit['kind']];
  if (there >= 0 && at < out.length) out[there] = out[at];
  out[at] = step;
  return out;
}

function pathOf(value: string, sign: Sign, part: TextPart, seen: SeenText | undefined): TextPath | undefined {
  if (part.path && value === (part.path.kind === 'part' ? `part:${part.path.part}` : part.path.kind)) return part.path;
  const width = seen && seen.width > 0 ? seen.width : 200;
  const shift = 0;
  const room = roomAbout(sign, part);
  // Letters stand outside of it, and on the blank.
  const largest = Math.floor(Math.min(room.across, room.up) * BLANK_SHARE - sizeAbout(part) * 1.1);
  const radius = Math.max(1, Math.min(Math.ceil(width / 2), Math.max(largest, Math.ceil(sizeAbout(part)))));
  if (value === 'arc') return { kind: 'arc', radius, span: 360, reads: 'top', side: 'outside', shift };
  if (value === 'sides') return { kind: 'sides', shift };
  if (value === 'straight') return { kind: 'straight', length: Math.ceil(width * 1.1), shift };
  if (value.startsWith('part:')) return { kind: 'part', part: value.slice(5), side: 'outside', shift };
  return undefined;
}

/** Of the room that the blank leaves about a part, new frames and arcs take this share. */
const BLANK_SHARE = 0.9;

/** From a part's place to the nearest edges of the blank, in mm, across and up; at least a little. */
function roomAbout({ blank }: Sign, { place }: TextPart): { readonly across: number; readonly up: number } {
  const { width, height } = extentOfShape(blank.outline);
  return { across: Math.max(1, width / 2 - Math.abs(place.x)), up: Math.max(1, height / 2 - Math.abs(place.y)) };
}

/** A text on an arc: where another one is it completes its ring, about the same middle and read from the other side. */
function aroundTheSame(sign: Sign, part: TextPart, arc: Extract<TextPath, { kind: 'arc' }>): true {
  const other = sign.parts.find(
    (one) => one.kind === 'text' && one.id !== part.id && one.path?.kind === 'arc' && sideOf(one) === sideOf(part),
  );
  if (other?.kind === 'text' && other.path?.kind === 'arc') {
    const { x, y } = other.place;
    part.place = { ...part.place, x, y, turn: other.place.turn };
    part.path = { ...other.path, reads: other.path.reads === 'top' ? 'bottom' : 'top', shift: 0 };
  } else part.path = arc;
  return true;
}

/** Another shape of the same extent. */
function shapeOf<S extends Shape | Blank['outline']>(kind: Shape['kind'], before: S): Shape {
  if (
    before.kind === kind ||
    before.kind === 'border' ||
    before.kind === 'combined' ||
    before.kind === 'fixings' ||
    before.kind === 'braille' ||
    before.kind === 'code'
  )
    return before;
  const { width, height } = extentOfShape(before);
  const extent = { width, height: height || width };
  switch (kind) {
    case 'rectangle':
      return { kind, ...extent, cornerRadius: 0 };
    case 'circle':
      return { kind, diameter: Math.min(extent.width, extent.height) };
    case 'ellipse':
    case 'stadium':
      return { kind, ...extent };
    case 'polygon':
      return { kind, sides: 6, diameter: Math.min(extent.width, extent.height), stands: 'flat' };
    case 'arch':
      return { kind, ...extent, rise: tidy(Math.min(extent.width / 2, extent.height / 3)) };
    case 'sector':
      return { kind, ...sectorWithin(extent) };
    case 'line':
      return { kind, length: width };
    default:
      return before;
  }
}

/** How wide a shape is that has a size of its own. */
function widthOf(shape: Shape): number {
  if ('width' in shape && shape.kind !== 'border') return shape.width;
  return 'diameter' in shape && shape.kind !== 'fixings' ? shape.diameter : 0;
}

/** Room between copies in a row, in widths of the part. */
const COPY_GAP = 0.25;

/** Copies of a part: in a row they stand beside each other with some room, wider apart where the blank has it. */
function setCopies(part: Sign['parts'][number], kind: string, sign: Sign, { seen, extent }: Around): void {
  if (part.copies?.kind === kind) return;
  const { width, height } = extentOfShape(sign.blank.outline);
  const own = extent?.width ?? (part.kind === 'text' ? (seen?.width ?? 0) : widthOf(part.shape));
  const count = part.copies && 'count' in part.copies ? part.copies.count : 4;
  const copies: Record<string, Copies> = {
    row: { kind: 'row', count, stepX: tidy(Math.max(width / (count + 1), own * (1 + COPY_GAP))), stepY: 0 },
    ring: { kind: 'ring', count, radius: tidy(Math.min(width, height) / 3), turning: false },
    faces: { kind: 'faces', on: 'sides' },
  };
  if (copies[kind]) part.copies = copies[kind];
  else delete part.copies;
}
