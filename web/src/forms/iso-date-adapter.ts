import { Injectable, type Provider } from '@angular/core';
import { DateAdapter, MAT_DATE_FORMATS, NativeDateAdapter, type MatDateFormats } from '@angular/material/core';

const ISO = 'iso';
const FORMATS: MatDateFormats = {
  parse: { dateInput: ISO },
  display: {
    dateInput: ISO,
    monthYearLabel: { year: 'numeric', month: 'short' },
    dateA11yLabel: { year: 'numeric', month: 'long', day: 'numeric' },
    monthYearA11yLabel: { year: 'numeric', month: 'long' },
  },
};

/** Dates as ISO 8601 writes them, YYYY-MM-DD, in every field; weeks begin on Monday. */
@Injectable()
class IsoDateAdapter extends NativeDateAdapter {
  override getFirstDayOfWeek(): number {
    return 1;
  }

  override parse(value: unknown): Date | null {
    return value === '' || value === null || value === undefined ? null : (fromIso(String(value)) ?? this.invalid());
  }

  override format(date: Date, format: unknown): string {
    return format === ISO ? toIso(date) : super.format(date, format as object);
  }
}

/** A calendar day as YYYY-MM-DD. */
export function toIso(date: Date): string {
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${String(date.getFullYear()).padStart(4, '0')}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

/** The day that YYYY-MM-DD names; undefined where there is no such day. */
export function fromIso(text: string): Date | undefined {
  const parts = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text.trim());
  if (!parts) return undefined;
  const [year, month, day] = parts.slice(1).map(Number) as [number, number, number];
  const date = new Date(year, month - 1, day);
  return date.getMonth() === month - 1 && date.getDate() === day ? date : undefined;
}

export function provideIsoDates(): Provider[] {
  return [
    { provide: DateAdapter, useClass: IsoDateAdapter },
    { provide: MAT_DATE_FORMATS, useValue: FORMATS },
  ];
}
