/** Times as TTML writes them (TTML 2, §12.3): clock times with fractions or frames, offsets with a unit. */

export interface Clock {
  readonly frameRate: number;
  readonly subFrameRate: number;
  readonly tickRate: number;
}

const CLOCK = /^(\d{1,4}):(\d{1,2}):(\d{1,2})(?:\.(\d{1,9})|[:;](\d{1,3})(?:\.(\d{1,3}))?)?$/;
const OFFSET = /^(\d{1,15}(?:\.\d{1,9})?)(h|m|s|ms|f|t)$/;

/** Milliseconds, with fractions; `null` where it is no time. */
export function parseTime(raw: string, { frameRate, subFrameRate, tickRate }: Clock): number | null {
  const text = raw.trim();
  const clock = CLOCK.exec(text);
  if (clock !== null) {
    const [, hours, minutes, seconds, fraction, frames, subFrames] = clock;
    const whole = (Number(hours) * 60 + Number(minutes)) * 60 + Number(seconds);
    const part =
      fraction !== undefined
        ? Number(`0.${fraction}`)
        : (Number(frames ?? 0) + Number(subFrames ?? 0) / subFrameRate) / frameRate;
    return (whole + part) * 1000;
  }
  const offset = OFFSET.exec(text);
  if (offset === null) return null;
  const value = Number(offset[1]);
  switch (offset[2]) {
    case 'h':
      return value * 3_600_000;
    case 'm':
      return value * 60_000;
    case 's':
      return value * 1000;
    case 'ms':
      return value;
    case 'f':
      return (value / frameRate) * 1000;
    default:
      return (value / tickRate) * 1000;
  }
}

/** The rates of a document (TTML 2, §7.2); where it says none, those that the standard has. */
export function clockOf(attribute: (name: string) => string | undefined): Clock {
  const number = (name: string): number | null => {
    const value = Number(attribute(name));
    return Number.isFinite(value) && value > 0 && value <= 1e9 ? value : null;
  };
  const [over, under] = (attribute('frameRateMultiplier') ?? '')
    .trim()
    .split(/[\s:]+/)
    .map(Number);
  const multiplier = over !== undefined && under !== undefined && over > 0 && under > 0 ? over / under : 1;
  const stated = number('frameRate');
  const frameRate = (stated ?? 30) * multiplier;
  const subFrameRate = number('subFrameRate') ?? 1;
  return { frameRate, subFrameRate, tickRate: number('tickRate') ?? (stated === null ? 1 : frameRate * subFrameRate) };
}
