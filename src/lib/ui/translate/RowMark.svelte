<script lang="ts">
  import type { RowState } from '$lib/core/translating';
  import Circle from '@lucide/svelte/icons/circle';
  import CircleCheck from '@lucide/svelte/icons/circle-check';
  import Cog from '@lucide/svelte/icons/cog';
  import Pencil from '@lucide/svelte/icons/pencil';
  import { phrases } from './phrases';

  interface Props {
    state: RowState;
  }
  let { state }: Props = $props();
  const SIGNS = { empty: Circle, machine: Cog, mine: Pencil, done: CircleCheck };
  const Sign = $derived(SIGNS[state]);
</script>

<span class="sign" data-state={state}><Sign size={14} aria-hidden="true" />{phrases.states[state]}</span>

<style>
  .sign {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    color: var(--soft-ink);
  }
  .sign[data-state='mine'] {
    color: var(--ink);
  }
  .sign[data-state='done'] {
    color: var(--leaf);
    font-weight: 600;
  }
</style>
