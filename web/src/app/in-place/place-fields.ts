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

  protected set(label: string, change: Partial<Place>): void {
    this.edited.emit({ label, document: { ...this.place(), ...change } });
  }

  protected setLight(change: Partial<Place['light']>, label: string): void {
    this.set(label, { light: { ...this.place().light, ...change } });
  }

  protected setReading(change: Partial<Place['reading']>, label: string): void {
    this.set(label, { reading: { ...this.place().reading, ...change } });
  }

  protected setView(change: Partial<Place['view']>): void {
    this.set('view', { view: { ...this.place().view, ...change } });
  }

  protected setGround(kind: string): void {
    if (kind === 'plain') this.set('ground', { ground: { kind, colours: [COLOURS[0], COLOURS[1]] } });
    else if (kind === 'none') this.set('ground', { ground: { kind } });
  }

  protected setScale(scale: PhotographScale, label = 'size of what is marked'): void {
    const { ground } = this.place();
    if (ground.kind === 'photograph') this.set(label, { ground: { ...ground, scale } });
  }

  protected turnScale(): void {
    const scale = this.scale();
    if (scale) this.setScale(otherScale(scale), 'way of marking');
  }

  protected setColour(index: number, colour: string): void {
    const colours = this.colours().map((each, i) => (i === index ? colour : each));
    this.set('colour of the ground', { ground: { kind: 'plain', colours } });
  }

  protected setColours(count: number): void {
    const colours = Array.from({ length: count }, (_, i) => this.colours()[i] ?? COLOURS[i]);
    this.set('colours of the ground', { ground: { kind: 'plain', colours } });
  }

  protected setSign(index: number, change: Partial<PlacedSign>, label: string): void {
    this.set(label, { signs: this.place().signs.map((at, i) => (i === index ? { ...at, ...change } : at)) });
  }

  protected setOption(index: number, option: string): void {
    const hung = ({ sign, x, y, turn, standOff }: PlacedSign): PlacedSign => ({ sign, x, y, turn, standOff });
    this.set('option', {
      signs: this.place().signs.map((at, i) => (i === index ? { ...hung(at), ...(option !== '' && { option }) } : at)),
    });
  }

  protected hang(sign: string): void {
    if (sign === '') return;
    const { signs } = this.place();
    const last = signs.at(-1);
    this.set('sign', { signs: [...signs, { sign, x: 0, y: last ? last.y - 200 : 0, turn: 0, standOff: 0 }] });
  }

  protected takeDown(index: number): void {
    this.set('taking a sign down', { signs: this.place().signs.filter((_, i) => i !== index) });
  }

  protected choose(files: FileList | null): void {
    const file = files?.[0];
    if (file) this.photographChosen.emit(file);
  }
}
