<script lang="ts">
  import type { InputLevel, InputTrouble } from '$lib/core/narration';
  import { phrases } from './phrases';

  /** How loud the microphone comes in, on a scale of 60 dB, and what is wrong with it. */
  interface Props {
    level: InputLevel;
    trouble: InputTrouble | null;
  }
  let { level, trouble }: Props = $props();
  const RANGE_DB = 60;
  const share = (db: number): number => Math.max(0, Math.min(1, 1 + db / RANGE_DB));
</script>

<div
  class="level"
  role="meter"
  aria-label={phrases.level.label}
  aria-valuemin={-RANGE_DB}
  aria-valuemax={0}
  aria-valuenow={Math.round(Math.max(-RANGE_DB, level.peakDb))}
  aria-valuetext={phrases.level.value(level.peakDb)}
>
  <svg viewBox="0 0 240 26" width="240" height="26" aria-hidden="true">
    <rect x="0" y="4" width="240" height="9" rx="2" fill="var(--rule)" />
    <rect
      x="0"
      y="4"
      width={share(level.rmsDb) * 240}
      height="9"
      rx="2"
      fill={trouble === 'clipped' ? 'var(--clay)' : 'var(--leaf)'}
    />
    <rect x={Math.max(0, share(level.peakDb) * 240 - 2)} y="2" width="2" height="13" fill="var(--ink)" />
    {#each [-48, -36, -24, -12, -6] as db (db)}
      <text x={share(db) * 240} y="25" text-anchor="middle" font-size="9.5" fill="var(--soft-ink)">{db}</text>
    {/each}
  </svg>
  {#if trouble !== null}<span class="trouble" role="alert">{phrases.level.troubles[trouble]}</span>{/if}
</div>

<style>
  .level {
    display: flex;
    align-items: center;
    gap: 12px;
  }
  .trouble {
    max-width: 290px;
    font-size: 13px;
    line-height: 1.3;
    color: var(--clay);
  }
</style>
