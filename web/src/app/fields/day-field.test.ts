import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { DayField, IsoDays } from './day-field';

describe('DayField', () => {
  let fixture: ComponentFixture<DayField>;
  let told: string[];
  const page = () => fixture.nativeElement as HTMLElement;
  const field = () => page().querySelector('input')!;
  const type = async (text: string) => {
    field().value = text;
    for (const event of ['input', 'change', 'blur']) field().dispatchEvent(new Event(event));
    await fixture.whenStable();
  };

  beforeEach(async () => {
    fixture = TestBed.createComponent(DayField);
    fixture.componentRef.setInput('value', '2026-11-25');
    fixture.componentRef.setInput('label', 'Due on');
    told = [];
    fixture.componentInstance.changed.subscribe((day) => told.push(day));
    await fixture.whenStable();
  });

  it('shows the day it is given, and tells another that is typed, or none', async () => {
    expect(field().value).toBe('2026-11-25');
    await type('2026-12-03');
    await type('');
    expect(told).toEqual(['2026-12-03', '']);
  });

  it('says how a day is written where what is typed is none, and tells nothing', async () => {
    for (const text of ['soon', '2026-02-31', '25.11.2026']) {
      await type(text);
      expect([text, page().querySelector('.trouble')?.textContent]).toEqual([text, expect.stringContaining('2026-11-25')]);
    }
    expect(told).toEqual([]);
    await type('2027-01-01');
    expect([told, page().querySelector('.trouble')]).toEqual([['2027-01-01'], null]);
  });

  it('opens a month from its button', async () => {
    page().querySelector('button')!.click();
    await fixture.whenStable();
    const month = document.querySelector('ngb-datepicker')!;
    expect(month.textContent).toContain('25');
    month.querySelectorAll<HTMLElement>('.ngb-dp-day')[10].click();
    await fixture.whenStable();
    expect(told).toHaveLength(1);
  });

  it('keeps days as the standard writes them (ISO 8601)', () => {
    const days = new IsoDays();
    expect(days.toModel(days.fromModel('2026-03-04'))).toBe('2026-03-04');
    expect([days.fromModel('04.03.2026'), days.fromModel(null), days.toModel(null)]).toEqual([null, null, null]);
  });
});
