import type { HoursLine } from '../hours/line';
import ICAL from 'ical.js';

/** Writes hours as a calendar (RFC 5545): each stretch of an entry an event in UTC, an entry without times one of its whole day. */
export function writeCalendar(lines: readonly HoursLine[], stamp: number): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('prodid', '-//Half Penny//Hours//EN');
  for (const line of lines) {
    const spans = line.spans.length > 0 ? line.spans : [null];
    spans.forEach((span, index) => {
      const event = new ICAL.Component('vevent');
      event.addPropertyWithValue('uid', `${line.id}${index ? `-${index}` : ''}@half-penny.example`);
      event.addPropertyWithValue('dtstamp', utc(stamp));
      if (span) {
        event.addPropertyWithValue('dtstart', utc(span.start));
        event.addPropertyWithValue('dtend', utc(span.end));
      } else event.addPropertyWithValue('dtstart', ICAL.Time.fromDateString(line.day));
      event.addPropertyWithValue('summary', plain(line.note || line.project || line.unlisted || 'Time'));
      const about = [line.client, line.project || line.unlisted, line.service, span ? '' : line.length].filter(Boolean);
      event.addPropertyWithValue('description', plain(about.join(', ')));
      event.addPropertyWithValue('transp', 'TRANSPARENT');
      calendar.addSubcomponent(event);
    });
  }
  return `${calendar.toString()}\r\n`;
}

/** Line breaks as the format has them; other controls are no text (RFC 5545, 3.3.11). */
const plain = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, '');

const utc = (instant: number): ICAL.Time => ICAL.Time.fromJSDate(new Date(instant), true);
