import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { JobSign } from '@plain-relief/api';
import { MOST_SIGNS, type PhotographScale, type Place, type PlacedSign } from '@plain-relief/core/in-place';
import { type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../fields/length-field';
import { NumberField } from '../fields/number-field';
import type { Documents } from './place-desk';
import { otherScale } from './place-marks';
import type { PlaceEdit } from './place-stage';

/** From where light comes, in words. */
const LIGHTS: readonly (readonly [number, string])[] = [
  [125, 'the upper left'],
  [90, 'above'],
  [55, 'the upper right'],
  [0, 'the right'],
  [180, 'the left'],
  [270, 'below'],
];
const COLOURS = ['#efe9dc', '#d8d0be', '#ffffff', '#4a5552', '#20302c'] as const;

/** A place in sentences whose values are edited where they stand. */
@Component({
  selector: 'pr-place-fields',
  imports: [LengthField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './place-fields.html',
  styleUrl: './place-fields.scss',
})
export class PlaceFields {
  readonly place = input.required<Place>();
  readonly signs = input.required<readonly JobSign[]>();
  readonly documents = input.required<Documents>();
  readonly unit = input.required<LengthUnit>();
  readonly isAssumed = input(false);
  readonly isLooking = input(false);
  readonly edited = output<PlaceEdit>();
  readonly photographChosen = output<File>();
  protected readonly lights = LIGHTS;
  protected readonly mostSigns = MOST_SIGNS;

  protected readonly light = computed(() => {
    const { from } = this.place().light;
    return LIGHTS.find(([degrees]) => degrees === from)?.[0];
  });
  protected readonly scale = computed(() => {
    const { ground } = this.place();
    return ground.kind === 'photograph' ? ground.scale : undefined;
  });
  protected readonly colours = computed(() => {
    const { ground } = this.place();
    return ground.kind === 'plain' ? ground.colours : [];
  });
  protected readonly hung = computed(() =>
    this.place().signs.map((at, index) => ({
      at,
      index,
      title: this.signs().find(({ id }) => id === at.sign)?.title,
      options: this.documents()[at.sign]?.options ?? [],
    })),
  );

  private change(label: string, change: (place: Place) => Place): void {
    this.edited.emit({ label, change });
  }

  protected setLight(change: Partial<Place['light']>, label: string): void {
    this.change(label, (place) => ({ ...place, light: { ...place.light, ...change } }));
  }

  protected setReading(change: Partial<Place['reading']>, label: string): void {
    this.change(label, (place) => ({ ...place, reading: { ...place.reading, ...change } }));
  }

  protected setView(change: Partial<Place['view']>): void {
    this.change('view', (place) => ({ ...place, view: { ...place.view, ...change } }));
  }

  protected setGround(kind: string): void {
    if (kind === 'plain') this.setColours(2);
    else if (kind === 'none') this.change('ground', (place) => ({ ...place, ground: { kind } }));
  }

  /** Changes how long what is marked is; the marks stay where they are by then, drawn or not. */
  protected setMarked(side: 'width' | 'height' | 'across' | 'up', mm: number): void {
    this.changeScale('size of what is marked', (scale) => {
      if (side === 'width' || side === 'height') return scale.kind === 'corners' ? { ...scale, [side]: mm } : scale;
      return scale.kind === 'lengths' ? { ...scale, [side]: { ...scale[side], mm } } : scale;
    });
  }

  protected turnScale(): void {
    this.changeScale('way of marking', otherScale);
  }

  private changeScale(label: string, change: (scale: PhotographScale) => PhotographScale): void {
    this.change(label, (place) =>
      place.ground.kind === 'photograph' ? { ...place, ground: { ...place.ground, scale: change(place.ground.scale) } } : place,
    );
  }

  protected setColour(index: number, colour: string): void {
    const colours = this.colours().map((each, i) => (i === index ? colour : each));
    this.change('colour of the ground', (place) => ({ ...place, ground: { kind: 'plain', colours } }));
  }

  protected setColours(count: number): void {
    const colours = Array.from({ length: count }, (_, i) => this.colours()[i] ?? COLOURS[i]);
    this.change('colours of the ground', (place) => ({ ...place, ground: { kind: 'plain', colours } }));
  }

  protected setSign(index: number, change: Partial<PlacedSign>, label: string): void {
    this.changeSigns(label, (signs) => signs.map((at, i) => (i === index ? { ...at, ...change } : at)));
  }

  protected setOption(index: number, option: string): void {
    const hung = ({ sign, x, y, turn, standOff }: PlacedSign): PlacedSign => ({ sign, x, y, turn, standOff });
    this.changeSigns('option', (signs) =>
      signs.map((at, i) => (i === index ? { ...hung(at), ...(option !== '' && { option }) } : at)),
    );
  }

  protected hang(sign: string): void {
    if (sign === '') return;
    this.changeSigns('sign', (signs) => {
      const last = signs.at(-1);
      return [...signs, { sign, x: 0, y: last ? last.y - 200 : 0, turn: 0, standOff: 0 }];
    });
  }

  protected takeDown(index: number): void {
    this.changeSigns('taking a sign down', (signs) => signs.filter((_, i) => i !== index));
  }

  private changeSigns(label: string, change: (signs: Place['signs']) => Place['signs']): void {
    this.change(label, (place) => ({ ...place, signs: change(place.signs) }));
  }

  protected choose(files: FileList | null): void {
    const file = files?.[0];
    if (file) this.photographChosen.emit(file);
  }
}
