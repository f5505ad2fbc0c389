import { TestBed } from '@angular/core/testing';
import { newRun, type RunSheet } from '@plain-relief/core/runs';
import { RunSheets } from './run-sheets';
import type { DrawnSheets, LaidPlate } from './run-desk';

const EDGE = [Float64Array.of(-30, -10, 30, -10, 30, 10, -30, 10)];
const at = (id: number, x: number, y: number, sheet = 0): LaidPlate => ({
  id,
  name: String(id),
  edge: EDGE,
  sheet,
  x,
  y,
  turn: 0,
});
const sizes = [{ width: 610, height: 300 }]; // prettier-ignore
const drawn: DrawnSheets = {
  laid: [at(1, 40, 20), at(2, 104, 20)],
  sizes,
  count: 1,
  share: 0.1,
  lastMm: 30,
  left: [],
  plates: 2,
};
const sheet: RunSheet = { ...newRun('s').sheet, width: 610, height: 300 };

function shown(own: Partial<RunSheet> = {}) {
  const fixture = TestBed.createComponent(RunSheets);
  const changes: RunSheet[] = [];
  fixture.componentInstance.changed.subscribe((change) => {
    changes.push(change);
    fixture.componentRef.setInput('sheet', change);
    fixture.detectChanges();
  });
  fixture.componentRef.setInput('sheet', { ...sheet, ...own });
  fixture.componentRef.setInput('unit', 'mm');
  fixture.componentRef.setInput('drawn', drawn);
  fixture.componentRef.setInput('kept', [{ name: '1220 × 610, 10 mm birch', width: 1220, height: 610 }]);
  fixture.detectChanges();
  const root = fixture.nativeElement as HTMLElement;
  const press = (words: string): void => {
    const found = [...root.querySelectorAll('button')].find((button) => button.textContent?.includes(words));
    if (!found) throw new Error(`No button “${words}”`);
    found.click();
    fixture.detectChanges();
  };
  const choose = (name: string): void => {
    const plate = [...root.querySelectorAll('.plate')].find((each) => each.textContent?.trim() === name)!;
    plate.dispatchEvent(new MouseEvent('pointerdown', { button: 2, bubbles: true }));
    fixture.detectChanges();
  };
  return { root, changes, press, choose };
}

describe('sheets of a run', () => {
  it('keep a plate where it is, turn it about its middle, and let it be laid again', () => {
    const { changes, press, choose, root } = shown();
    choose('2');
    press('Keep it there');
    expect(changes.at(-1)!.locked).toEqual([{ row: 2, sheet: 0, x: 104, y: 20, turn: 0 }]);
    press('Turn it');
    expect(changes.at(-1)!.locked).toEqual([{ row: 2, sheet: 0, x: 104, y: 20, turn: 90 }]);
    // 10 mm of it would stand below the sheet.
    press('Let it be laid again');
    expect(changes.at(-1)!.locked).toEqual([]);
    expect(root.textContent).not.toContain('put by hand');
  });

  it('tell what was put too near to something', () => {
    const lying = { row: 2, sheet: 0, x: 104, y: 20, turn: 0 };
    expect(shown({ locked: [lying] }).root.textContent).not.toContain('too near');
    expect(shown({ locked: [lying], spacing: 4.5 }).root.textContent).toContain('One plate lies too near to something.');
    expect(shown({ locked: [lying], clamps: [{ x: 130, y: 0, width: 20, height: 20 }] }).root.textContent).toContain('too near');
  });

  it('take a size that the shop keeps, offcuts and clamps', () => {
    const { changes, press, root } = shown();
    const select = root.querySelector('select')!;
    select.value = '0';
    select.dispatchEvent(new Event('change'));
    expect([changes.at(-1)!.width, changes.at(-1)!.height]).toEqual([1220, 610]);
    press('Add an offcut');
    press('Keep a place free');
    expect(changes.at(-1)).toMatchObject({ offcuts: [{ width: 610, height: 305 }], clamps: [{ x: 0, y: 0 }] });
    press('Take out');
    expect(changes.at(-1)!.offcuts).toEqual([]);
  });
});
