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
});
