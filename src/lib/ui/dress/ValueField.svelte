<script lang="ts">
  import FieldName from './FieldName.svelte';

  /** A number that is typed, dragged and stepped by keys; while it is dragged it is only tried. */
  interface Props {
    label: string;
    unit: string;
    value: number;
    least: number;
    most: number;
    step: number;
    /** Name of the value, where it is the scope's own. */
    isOwn: boolean;
    onTry: (value: number) => void;
    onSet: (value: number) => void;
    onLetGo: () => void;
  }
  let { label, unit, value, least, most, step, isOwn, onTry, onSet, onLetGo }: Props = $props();

  const within = (typed: number): number => Math.min(most, Math.max(least, typed));

  function type(event: Event & { currentTarget: HTMLInputElement }): void {
    const typed = event.currentTarget.valueAsNumber;
    if (Number.isFinite(typed) && within(typed) !== value) onSet(within(typed));
    event.currentTarget.value = String(value);
  }
</script>

<div class="value">
  <span class="whole"><FieldName {label} {isOwn} {onLetGo} /></span>
  <input
    type="range"
    aria-label={label}
    min={least}
    max={most}
    {step}
    {value}
    oninput={({ currentTarget }) => onTry(currentTarget.valueAsNumber)}
    onchange={({ currentTarget }) => onSet(currentTarget.valueAsNumber)}
  />
  <input
    class="field mono"
    type="number"
    aria-label="{label}, {unit}"
    min={least}
    max={most}
    {step}
    {value}
    onchange={type}
  />
  <span class="soft">{unit}</span>
</div>

<style>
  .whole {
    grid-column: 1 / -1;
  }
  .value {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 66px 78px;
    gap: 2px 8px;
    align-items: center;
    font-size: 14px;
  }
  input[type='range'] {
    width: 100%;
  }
  input[type='number'] {
    min-height: 28px;
    padding: 1px 4px;
    text-align: right;
  }
  .soft {
    font-size: 13px;
    white-space: nowrap;
  }
</style>
