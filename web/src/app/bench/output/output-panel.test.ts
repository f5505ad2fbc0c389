import type { Clearance, NewTask } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { EVERYTHING, type SheetLayout } from '@plain-relief/core/sheet';
import { BehaviorSubject, of } from 'rxjs';
import { SessionService } from '../../session/session.service';
import { CardService } from '../../shop/card.service';
import { ReliefService } from '../../relief/relief.service';
import { LibraryService } from '../../shop/library.service';
import { OutputPanel } from './output-panel';
import { TasksService } from '../../tasks/tasks.service';

const SHORT: SheetLayout = { paper: 'Letter', isUpright: true, isInBothUnits: true, shows: ['picture'] };

describe('OutputPanel', () => {
  async function show(what: 'proof' | 'make', clearance: Clearance, isMaker = false) {
    const asked: NewTask[] = [];
    const tasks = { tasks$: of([]), ask: async (order: NewTask) => void asked.push(order), clearance: async () => clearance };
    const cards = { layouts$: new BehaviorSubject([{ id: 'l', name: 'Short', layout: SHORT }]), loadLayouts: async () => {} };
    TestBed.configureTestingModule({
      providers: [
        provideRouter([]),
        { provide: TasksService, useValue: tasks },
        { provide: CardService, useValue: cards },
        { provide: LibraryService, useValue: { library$: of(undefined) } },
        { provide: ReliefService, useValue: {} },
        { provide: SessionService, useValue: { isMaker } },
      ],
    });
    const fixture = TestBed.createComponent(OutputPanel);
    for (const [name, value] of Object.entries({ what, revision: 3, jobId: 'j', beforeAsking: async () => {} }))
      fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const choose = async (label: string, value: string) => {
      const select = page.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
      select.value = value;
      select.dispatchEvent(new Event('change'));
      await fixture.whenStable();
    };
    const make = async (name: string) => {
      page.querySelector<HTMLButtonElement>(`[aria-label="Make ${name}"]`)!.click();
      await fixture.whenStable();
    };
    return { page, asked, choose, make, fixture };
  }
  const cleared: Clearance = { isCleared: true, reason: '', letter: 'B', changes: [] };
  const locked: Clearance = {
    isCleared: false,
    reason: 'Changed since proof B.',
    letter: 'B',
    changes: ['Line 1: raised 2 mm → 3 mm'],
  };

  it('asks for a sheet by the layout that is chosen', async () => {
    const { asked, choose, make, page } = await show('proof', cleared);
    await make('Proof (PDF)');
    await choose('layout of the shop', 'l');
    await make('Proof (PDF)');
    expect(asked.map(({ kind, layout }) => [kind, layout])).toEqual([['proof', EVERYTHING], ['proof', SHORT]]); // prettier-ignore
    // What a frozen proof closes with is not on the sheet of a sign.
    expect(page.textContent).toContain('named sections');
    expect(page.textContent).not.toContain('spelling list');
  });

  it('asks for a template on the paper that is chosen, and for files without one', async () => {
    const { asked, choose, make } = await show('make', cleared);
    await choose('paper of the template', 'roll');
    await make('Template (PDF)');
    await make('Solid (STL)');
    expect(asked.map(({ kind, paper, layout }) => [kind, paper, layout])).toEqual([['template', 'roll', undefined], ['stl', undefined, undefined]]); // prettier-ignore
  });

  it('makes nothing that is not approved without a reason, and says what changed', async () => {
    const { asked, make, page, fixture } = await show('make', locked);
    expect(page.textContent).toContain('Line 1: raised 2 mm → 3 mm');
    await make('Solid (STL)');
    expect([asked, page.querySelector('[role=alert]')?.textContent]).toEqual([[], expect.stringContaining('say above why')]);
    const field = page.querySelector<HTMLInputElement>('pr-line-field input')!;
    field.value = ' A trial piece ';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    await make('Solid (STL)');
    expect(asked).toEqual([expect.objectContaining({ kind: 'stl', override: 'A trial piece' })]);
  });

  it('lets makers take nothing on themselves', async () => {
    const { page } = await show('make', locked, true);
    expect(page.querySelector('pr-line-field')).toBeNull();
    expect(page.textContent).toContain('Ask a designer for a proof');
  });
});
