<script lang="ts">
  interface Props {
    label: string;
    /** 0 to 1. */
    progress: number;
  }
  let { label, progress }: Props = $props();
</script>

<div
  class="track-bar"
  role="progressbar"
  aria-label={label}
  aria-valuenow={Math.round(progress * 100)}
  aria-valuemin="0"
  aria-valuemax="100"
>
  <span style:width="{progress * 100}%"></span>
</div>
