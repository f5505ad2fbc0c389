import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import { type ClauseResult, type Finding, type FindingRemedy, STANDARDS } from '@plain-relief/core/inspection';
import { newSign, newText, type Sign } from '@plain-relief/core/sign';
import { Notices } from '../../platform/notices';
import { InspectionService } from '../../relief/inspection.service';
import type { InspectionView } from '../../relief/views';
import { SignStore } from '../document/sign-store';
import { Measurements } from '../measurements';
import { CheckPanel } from './check-panel';

const GAP: Finding = { check: 'narrow-gap', text: 'A tool of 1.5 mm does not pass.', measured: 1.2, limit: 1.5, places: [{ x: 1, y: 2 }] }; // prettier-ignore
const LOW: Finding = { check: 'small-letters', text: 'Line 1: capitals are low.', measured: 20, limit: 25, places: [], part: 'line-1' }; // prettier-ignore
const OPEN_UP: FindingRemedy = { label: 'Open up Line 1', sets: [{ part: 'line-1', path: ['tracking'], value: 9 }] };

const clause = (title: string, verdict: ClauseResult['verdict'], beyond: ClauseResult['beyond'] = []): ClauseResult => ({
  clause: STANDARDS[0].clauses.find((each) => each.title === title)!,
  verdict,
  measured: '0.5 mm',
  beyond,
  worst: beyond[0],
});
const DEEP = clause('Depth', 'fails', [{ value: 0.5, part: 'line-1', place: { x: 3, y: 4 } }]);

/** The panel on a sign with a line, with what was measured of it. */
async function show(inspection: InspectionView | undefined, change: (sign: Sign) => void = () => undefined, met?: object) {
  const sign = newSign('Test', 'mm');
  sign.parts.push(newText(sign, 'barlow-semibold'));
  change(sign);
  const edits: string[] = [];
  const said: string[] = [];
  const measurements = {
    inspection: signal(inspection),
    isInspecting: signal(inspection === undefined),
    chosenFinding: signal<Finding | undefined>(undefined),
    chosenClause: signal<ClauseResult | undefined>(undefined),
    remediesOf: async (finding: Finding) => (finding === GAP ? [OPEN_UP] : []),
  };
  const edit = (label: string, _key: string, recipe: (sign: Sign) => void) => {
    edits.push(label);
    recipe(sign);
  };
  TestBed.configureTestingModule({
    providers: [
      { provide: Measurements, useValue: measurements },
      { provide: SignStore, useValue: { edit, editAll: edit, whole: sign, undo: () => edits.push('undo') } },
      { provide: InspectionService, useValue: { madeToMeet: async () => met } },
      { provide: Notices, useValue: { say: (sentence: string) => said.push(sentence) } },
    ],
  });
  const fixture = TestBed.createComponent(CheckPanel);
  fixture.componentRef.setInput('notes', []);
  fixture.componentRef.setInput('sign', sign);
  const picked: string[] = [];
  fixture.componentInstance.picked.subscribe((id) => picked.push(id));
  const settle = async () => {
    await fixture.whenStable();
    fixture.componentRef.setInput('sign', JSON.parse(JSON.stringify(sign)) as Sign);
    await fixture.whenStable();
  };
  await settle();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (words: string) => {
    [...page.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(words))!.click();
    await settle();
  };
  const type = async (label: string, value: string) => {
    const field = page.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
    field.value = value;
    field.dispatchEvent(new Event('change'));
    await settle();
  };
  return { page, press, type, picked, edits, said, measurements, sign, settle };
}

describe('what was measured', () => {
  it('is listed by what it is about, each with where its limit is from, and marks the places of one', async () => {
    const { page, press, picked, measurements } = await show({ findings: [LOW, GAP], off: [] });
    expect(page.querySelector('.measured h3')?.textContent).toMatch(/Measured\s+2/u);
    expect([...page.querySelectorAll('.measured h4')].map(({ textContent }) => textContent)).toEqual(['Making', 'Reading']);
    expect(page.querySelector('.measured li button')?.getAttribute('title')).toContain('opening by a disc');
    await press('does not pass');
    expect(measurements.chosenFinding()).toBe(GAP);
    expect(page.querySelector('.measured li.chosen')?.textContent).toContain('does not pass');
    await press('does not pass');
    expect(measurements.chosenFinding()).toBeUndefined();
    await press('capitals are low');
    expect(picked).toEqual(['line-1']);
  });

  it('says when nothing is beyond the limits, and while it is measured', async () => {
    expect((await show({ findings: [], off: [] })).page.textContent).toContain('All that is measured is as it should be');
    TestBed.resetTestingModule();
    expect((await show(undefined)).page.querySelector('.measured')?.textContent).toContain('Measuring');
  });

  it('is mended with one click by what was tried, or says that nothing does', async () => {
    const { page, press, edits, sign } = await show({ findings: [GAP, LOW], off: [] });
    await press('does not pass');
    await press('Open up Line 1');
    expect(edits).toEqual(['open up line 1']);
    expect(sign.parts[0]).toMatchObject({ tracking: 9 });
    await press('capitals are low');
    expect(page.textContent).toContain('Nothing mends it without making something else worse');
  });

  it('is switched off with a reason, and on again', async () => {
    const { page, press, sign, settle } = await show({ findings: [GAP], off: [] });
    await press('does not pass');
    await press('Switch this check off');
    const field = page.querySelector<HTMLInputElement>('form input')!;
    const send = async (reason: string) => {
      field.value = reason;
      page.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
      await settle();
    };
    await send('  ');
    expect(sign.checks?.off ?? []).toEqual([]);
    await send(' cut by hand ');
    expect(sign.checks?.off).toEqual([{ check: 'narrow-gap', reason: 'cut by hand' }]);
    expect(page.textContent).toContain('narrow-gap: cut by hand');
    await press('Switch it on');
    expect(sign.checks).toBeUndefined();
  });

  it('is measured from a distance and against the words of the order', async () => {
    const { type, sign, edits } = await show({ findings: [], off: [] });
    await type('Words that were ordered', 'Pier 4');
    expect(sign.checks).toEqual({ order: 'Pier 4' });
    await type('Words that were ordered', '  ');
    expect([sign.checks, edits]).toEqual([undefined, ['words that were ordered', 'words that were ordered']]);
  });
});

describe('the standard', () => {
  const ada = (sign: Sign) => (sign.checks = { standard: 'ada-703' });

  it('is chosen, and shown clause by clause with the places of one', async () => {
    const { page, press, picked, measurements } = await show({ findings: [], off: [], clauses: [DEEP, clause('Case', 'passes')] }, ada); // prettier-ignore
    expect(page.querySelector('.standard h3')?.textContent).toMatch(/Standard\s+1/u);
    expect([...page.querySelectorAll('tbody tr')].map(({ className }) => className.trim())).toEqual(['fails', 'passes']);
    await press('Depth');
    expect([measurements.chosenClause(), picked]).toEqual([DEEP, ['line-1']]);
    await press('Depth');
    expect(measurements.chosenClause()).toBeUndefined();
  });

  it('is none where none is asked for, and is chosen and taken away', async () => {
    const { page, settle, sign } = await show({ findings: [], off: [] });
    expect(page.querySelector('table')).toBeNull();
    const choose = async (id: string) => {
      const field = page.querySelector<HTMLSelectElement>('.standard select')!;
      field.value = id;
      field.dispatchEvent(new Event('change'));
      await settle();
    };
    await choose('ada-703');
    expect(sign.checks).toEqual({ standard: 'ada-703' });
    await choose('');
    expect(sign.checks).toBeUndefined();
  });

  it('is met with one click, which says what it changed', async () => {
    const met = { sign: { title: 'Met' }, said: ['Line 1 is in capitals.'], results: [] };
    const { press, said, edits, sign } = await show({ findings: [], off: [], clauses: [DEEP] }, ada, met);
    await press('Make it meet');
    expect([said, edits, sign.title]).toEqual([['Line 1 is in capitals.'], ['made to meet the standard'], 'Met']);
  });

  it('says so where nothing of it fails', async () => {
    const { page } = await show({ findings: [], off: [], clauses: [clause('Case', 'passes')] }, ada);
    expect(page.textContent).toContain('Nothing of it fails');
  });
});
