<script lang="ts" generics="Value extends string">
  import FieldName from './FieldName.svelte';
  import { entriesOf } from './entries';

  /** One of few, side by side; arrows go from one to the other. */
  interface Props {
    label: string;
    values: Readonly<Record<Value, string>>;
    value: Value;
    isOwn: boolean;
    onSet: (value: Value) => void;
    onLetGo: () => void;
  }
  let { label, values, value, isOwn, onSet, onLetGo }: Props = $props();
  const all = $derived(entriesOf(values));

  function byArrow(event: KeyboardEvent & { currentTarget: HTMLElement }, at: number): void {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const to = (at + by + all.length) % all.length;
    onSet(all[to]![0]);
    event.currentTarget.parentElement?.querySelectorAll('button')[to]?.focus();
  }
</script>

<div class="choice">
  <FieldName {label} {isOwn} {onLetGo} />
  <span class="values" role="radiogroup" aria-label={label}>
    {#each all as [id, name], at (id)}
      <button
        role="radio"
        aria-checked={id === value}
        tabindex={id === value ? 0 : -1}
        onclick={() => onSet(id)}
        onkeydown={(event) => byArrow(event, at)}>{name}</button
      >
    {/each}
  </span>
</div>

<style>
  .choice {
    display: grid;
    gap: 2px;
    font-size: 14px;
  }
  .values {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
  }
  .values button {
    flex: 1 1 auto;
    min-height: 30px;
    padding: 2px 8px;
    border: 1px solid var(--rule);
    background: var(--sheet);
    cursor: pointer;
    white-space: nowrap;
  }
  .values button:first-child {
    border-radius: 3px 0 0 9px;
  }
  .values button:last-child {
    border-radius: 0 9px 3px 0;
  }
  .values [aria-checked='true'] {
    border-color: var(--leaf);
    background: var(--pale-leaf);
    font-weight: 600;
  }
</style>
