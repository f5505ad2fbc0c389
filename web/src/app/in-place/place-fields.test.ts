import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { newPlace, type Place } from '@plain-relief/core/in-place';
import { PlaceFields } from './place-fields';
import { type PlaceEdit } from './place-stage';

const POINTS = [
  { x: 480, y: 360 },
  { x: 1120, y: 360 },
  { x: 1120, y: 840 },
  { x: 480, y: 840 },
];

/** A place in a photograph on which four corners are marked. */
function photographed(points = POINTS): Place {
  const scale = { kind: 'corners', width: 1000, height: 750, points } as const;
  const ground = { kind: 'photograph', file: 'f', width: 1600, height: 1200, scale } as const;
  return { ...newPlace([]), ground: { ...ground, scale: { ...scale, points: [...points] } } };
}

describe('what is said of a place', () => {
  let fixture: ComponentFixture<PlaceFields>;
  let edits: PlaceEdit[];

  beforeEach(async () => {
    fixture = TestBed.createComponent(PlaceFields);
    const inputs = { place: photographed(), signs: [], documents: {}, unit: 'mm' };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    edits = [];
    fixture.componentInstance.edited.subscribe((edit) => edits.push(edit));
    await fixture.whenStable();
  });

  it('changes the size of what is marked, and leaves marks that were moved meanwhile where they are', async () => {
    const field = (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>('input[aria-label="width of what is marked"]')!; // prettier-ignore
    field.dispatchEvent(new Event('focus'));
    field.value = '926 mm';
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await fixture.whenStable();
    expect(edits.map(({ label }) => label)).toEqual(['size of what is marked']);
    // By now a corner is elsewhere, and the fields have not been drawn since.
    const moved = photographed(POINTS.map((point, i) => (i === 1 ? { ...point, x: 1110 } : point)));
    const { ground } = edits[0].change(moved);
    expect(ground).toMatchObject({ scale: { kind: 'corners', width: 926, height: 750, points: [{}, { x: 1110 }, {}, {}] } });
    // Where it has become something else meanwhile nothing of it is said.
    const bare: Place = { ...moved, ground: { kind: 'none' } };
    expect(edits[0].change(bare)).toEqual(bare);
  });

  it('turns to the other way of marking, and back', () => {
    const turn = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find(({ textContent }) => textContent.includes('Mark two lengths'))!; // prettier-ignore
    turn.click();
    const place = edits[0].change(photographed());
    expect(place.ground).toMatchObject({ kind: 'photograph', scale: { kind: 'lengths' } });
    expect(edits[0].change(place).ground).toMatchObject({ scale: { kind: 'corners' } });
  });
});
