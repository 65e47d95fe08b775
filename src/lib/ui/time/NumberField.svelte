<script lang="ts">
  /** A number with its unit; a value out of bounds is replaced by the last good one. */
  interface Props {
    label: string;
    unit?: string;
    value: number;
    least: number;
    most: number;
    step?: number;
    onChange: (value: number) => void;
  }
  let { label, unit = '', value, least, most, step = 1, onChange }: Props = $props();

  function change(event: Event & { currentTarget: HTMLInputElement }): void {
    const typed = event.currentTarget.valueAsNumber;
    if (Number.isFinite(typed)) onChange(Math.min(most, Math.max(least, typed)));
    event.currentTarget.value = String(value);
  }
</script>

<label>
  <span>{label}</span>
  <input class="field mono" type="number" min={least} max={most} {step} {value} onchange={change} />
  <span class="soft">{unit}</span>
</label>

<style>
  label {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 84px 96px;
    gap: 8px;
    align-items: center;
    font-size: 14px;
  }
  input {
    min-height: 30px;
    padding: 2px 6px;
    text-align: right;
  }
  .soft {
    font-size: 13px;
    white-space: nowrap;
  }
</style>
