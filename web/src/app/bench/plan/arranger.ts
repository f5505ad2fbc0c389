import { inject, Injectable } from '@angular/core';
import { type Box, joinBoxes } from '@plain-relief/core/geometry';
import {
  aligned,
  broughtTo,
  becomeBlank,
  boxAround,
  distributed,
  goAround,
  grouped,
  mirroredParts,
  type Move,
  movedParts,
  type PartBoxes,
  ungrouped,
  unitsOf,
  turnedParts,
} from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';
import { ReliefService } from '../../relief/relief.service';
import type { Arranging } from './arrange-strip';
import { SignStore } from '../document/sign-store';

const LABELS: Readonly<Record<string, string>> = { left: 'align left', centre: 'align to the centre', right: 'align right', top: 'align at the top', middle: 'align to the middle', bottom: 'align at the bottom' }; // prettier-ignore

/** Does what the bench's commands ask of the chosen parts, by where they are seen. */
@Injectable()
export class Arranger {
  private readonly store = inject(SignStore);
  private readonly relief = inject(ReliefService);

  /** @returns a sentence where it could not be done */
  async do(asked: Arranging): Promise<string | undefined> {
    if (asked.kind === 'split' || asked.kind === 'outline') return this.takeApart(asked);
    this.act(asked);
    return undefined;
  }

  /** A text as the texts of its lines or words, or as outlines. */
  private async takeApart(asked: Extract<Arranging, { kind: 'split' | 'outline' }>): Promise<string | undefined> {
    const id = this.store.now?.selected;
    if (id === undefined) return undefined;
    const { parts, refusal } = await (asked.kind === 'split' ? this.relief.split(id, asked.into) : this.relief.outlined(id));
    if (refusal === undefined) this.store.replace(id, asked.kind === 'split' ? 'part' : 'outlines of', parts);
    return refusal;
  }

  /** Spaces a text out until a tool fits between its letters; gives the sentence that says by how much it grew. */
  async openUp(part: string, diameter: number): Promise<string> {
    const unit = this.store.now?.sign.unit ?? 'mm';
    const opened = await this.relief.openUp(part, diameter);
    const tool = `a tool of ⌀ ${formatLength(diameter, unit)}`;
    if (!opened) return `No gap between these letters can be opened for ${tool}.`;
    if (opened.grownBy === 0)
      return `Every gap already lets ${tool} through: the narrowest is ${formatLength(opened.gap, unit)}.`;
    this.store.setTracking(part, opened.tracking);
    return `Opened up for ${tool}: ${formatLength(opened.grownBy, unit)} longer.`;
  }

  private act(asked: Exclude<Arranging, { kind: 'split' | 'outline' }>): void {
    const boxes = this.boxes();
    switch (asked.kind) {
      case 'align':
        return this.align(asked, boxes);
      case 'spread':
        return this.move('equal gaps', (units) => distributed(units, boxes, asked.along, asked.by));
      case 'combine':
        return this.store.combine(asked.how);
      case 'group':
        return this.store.arrange('group', grouped);
      case 'ungroup':
        return this.store.arrange('ungroup', ungrouped);
      case 'lock':
        return this.toggle('locked', 'lock', 'unlock');
      case 'hide':
        return this.toggle('hidden', 'hide', 'show');
      case 'turn':
        return this.turn(90);
      case 'turn right':
        return this.turn(-90);
      case 'mirror': {
        const { x } = this.middle();
        return this.store.arrange('mirror', (sign, ids) => mirroredParts(sign, ids, x));
      }
      case 'blank':
        return this.store.arrange('outline of the blank', (sign, [id]) => becomeBlank(sign, id));
      case 'around':
        return this.store.arrange('once around', (sign, [id]) => goAround(sign, id));
      case 'points':
        return;
    }
  }

  private align({ at, to, by }: Extract<Arranging, { kind: 'align' }>, boxes: readonly PartBoxes[]): void {
    const target = this.target(to);
    this.move(LABELS[at], (units) =>
      to === 'blank' && target ? broughtTo(units, boxes, at, by, target) : aligned(units, boxes, at, by, target),
    );
  }

  /** Turns the chosen parts as one, anticlockwise about their middle. */
  turn(degrees: number): void {
    const middle = this.middle();
    this.store.arrange('turn', (sign, ids) => turnedParts(sign, ids, degrees, middle));
  }

  private boxes(): PartBoxes[] {
    return (this.relief.latest?.plan.parts ?? []).flatMap(({ id, ink, caps }) => (ink ? [{ id, ink, caps }] : []));
  }

  private move(label: string, moves: (units: string[][]) => Move[]): void {
    this.store.arrange(label, (sign, ids) => movedParts(sign, moves(unitsOf(sign, ids))));
  }

  private target(to: 'blank' | 'chosen' | 'last'): Box | undefined {
    if (to === 'blank') {
      const blank = this.relief.latest?.plan.blank;
      const chosen = this.store.now?.chosen ?? [];
      const box = this.boxes().filter(({ id }) => chosen.includes(id)).map(({ ink }) => ink).reduce<Box | undefined>(joinBoxes, undefined); // prettier-ignore
      return blank && box ? boxAround(this.store.now?.sign.support, blank, box) : blank;
    }
    const last = this.store.now?.selected;
    return to === 'last' ? this.boxes().find(({ id }) => id === last)?.ink : undefined;
  }

  /** One part turns about its own place, several about the middle of what is seen of them. */
  private middle(): { readonly x: number; readonly y: number } {
    const parts = this.store.chosenParts();
    if (parts.length === 1) return parts[0].place;
    const ids = parts.map(({ id }) => id);
    const box = this.boxes().filter(({ id }) => ids.includes(id)).map(({ ink }) => ink).reduce<Box | undefined>(joinBoxes, undefined); // prettier-ignore
    return box ? { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 } : { x: 0, y: 0 };
  }

  private toggle(field: 'locked' | 'hidden', on: string, off: string): void {
    const isOn = this.store.chosenParts().every((part) => part[field] === true);
    this.store.arrange(isOn ? off : on, (sign, ids) => {
      for (const part of sign.parts) {
        if (!ids.includes(part.id)) continue;
        if (isOn) delete part[field];
        else part[field] = true;
      }
    });
  }
}
