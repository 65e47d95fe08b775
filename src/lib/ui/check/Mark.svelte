<script lang="ts">
  import type { Severity } from '$lib/core/track';
  import { phrases } from './phrases';

  /** How a finding counts: a shape of its own besides the colour. */
  let { severity }: { severity: Severity } = $props();
</script>

<svg class={severity} viewBox="0 0 12 12" width="12" height="12" role="img" aria-label={phrases.severities[severity]}>
  {#if severity === 'error'}<rect x="1" y="1" width="10" height="10" rx="2" />
  {:else if severity === 'warning'}<path d="M6 1 11.5 11 .5 11z" />
  {:else}<circle cx="6" cy="6" r="3.5" />{/if}
</svg>

<style>
  svg {
    flex: none;
    fill: var(--soft-ink);
  }
  .error {
    fill: var(--clay);
  }
  .warning {
    fill: var(--straw);
  }
</style>
