import { TestBed } from '@angular/core/testing';
import { LineField } from './line-field';

describe('LineField', () => {
  it('tells every change, and shows what it is given', async () => {
    const fixture = TestBed.createComponent(LineField);
    for (const [name, value] of Object.entries({ label: 'Your name', value: 'Ida', most: 5, type: 'email', fill: 'username' }))
      fixture.componentRef.setInput(name, value);
    const told: string[] = [];
    fixture.componentInstance.value.subscribe((value) => told.push(value));
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    expect([field.value, field.maxLength, field.type, field.autocomplete]).toEqual(['Ida', 5, 'email', 'username']);
    expect(field.labels?.[0].textContent?.trim()).toBe('Your name');
    field.value = 'Ida B';
    field.dispatchEvent(new Event('input'));
    expect(told).toEqual(['Ida B']);
    fixture.componentRef.setInput('value', '');
    await fixture.whenStable();
    expect(field.value).toBe('');
  });

  it('has the focus where it is to be first, also after another had it', async () => {
    for (const name of ['one', 'two']) {
      const fixture = TestBed.createComponent(LineField);
      for (const [key, value] of Object.entries({ label: name, value: '', isFirst: true }))
        fixture.componentRef.setInput(key, value);
      document.body.append(fixture.nativeElement as HTMLElement);
      await fixture.whenStable();
      expect(document.activeElement).toBe((fixture.nativeElement as HTMLElement).querySelector('input'));
    }
    const last = TestBed.createComponent(LineField);
    for (const [key, value] of Object.entries({ label: 'later', value: '' })) last.componentRef.setInput(key, value);
    document.body.append(last.nativeElement as HTMLElement);
    await last.whenStable();
    expect(document.activeElement).not.toBe((last.nativeElement as HTMLElement).querySelector('input'));
  });

  it('takes words of many lines', async () => {
    const fixture = TestBed.createComponent(LineField);
    for (const [key, value] of Object.entries({ label: 'Terms', value: 'One', rows: 4, most: 20 }))
      fixture.componentRef.setInput(key, value);
    const told: string[] = [];
    fixture.componentInstance.value.subscribe((value) => told.push(value));
    await fixture.whenStable();
    const field = (fixture.nativeElement as HTMLElement).querySelector('textarea')!;
    expect([field.rows, field.maxLength, field.value, field.labels?.[0].textContent?.trim()]).toEqual([4, 20, 'One', 'Terms']);
    field.value = 'One\nTwo';
    field.dispatchEvent(new Event('input'));
    expect(told).toEqual(['One\nTwo']);
  });
});
