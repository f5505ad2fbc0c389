import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { Finding } from '@plain-relief/core/inspection';
import { CheckPanel } from './check-panel';

const GAP: Finding = {
  check: 'narrow-gap',
  text: 'A tool of 1.5 mm does not pass.',
  measured: 1.2,
  limit: 1.5,
  places: [{ x: 1, y: 2 }],
};
const LOW: Finding = {
  check: 'small-letters',
  text: 'Line 1: capitals are low.',
  measured: 20,
  limit: 25,
  places: [],
  part: 'line-1',
};

async function show(findings: readonly Finding[] | undefined) {
  const fixture = TestBed.createComponent(CheckPanel);
  fixture.componentRef.setInput('notes', []);
  fixture.componentRef.setInput('findings', findings);
  const picked: string[] = [];
  fixture.componentInstance.picked.subscribe((id) => picked.push(id));
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const measured = page.querySelector('.measured')!;
  const press = async (words: string) => {
    [...measured.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(words))!.click();
    await fixture.whenStable();
  };
  return { fixture, measured, picked, press };
}

describe('CheckPanel', () => {
  it('lists what was measured, each with where its limit is from, and marks the places of one', async () => {
    const { fixture, measured, picked, press } = await show([GAP, LOW]);
    expect(measured.querySelector('h3')?.textContent).toMatch(/Measured\s+2/u);
    expect(measured.querySelector('li button')?.getAttribute('title')).toContain('opening by a disc');
    await press('does not pass');
    expect(fixture.componentInstance.chosenFinding()).toBe(GAP);
    expect(measured.querySelector('li.chosen')?.textContent).toContain('does not pass');
    await press('does not pass');
    expect(fixture.componentInstance.chosenFinding()).toBeUndefined();
    await press('capitals are low');
    expect(picked).toEqual(['line-1']);
  });

  it('says when nothing is beyond the limits, and while it is measured', async () => {
    expect((await show([])).measured.textContent).toContain('as they should be');
    expect((await show(undefined)).measured.textContent).toContain('Measuring');
  });
});
