<script lang="ts">
  import { FRAME_RATES, type ExportOptions, type Format, type OptionName } from '$lib/core/formats';
  import { phrases } from './phrases';

  /** What may be said with a file of a format. */
  interface Props {
    format: Format;
    options: ExportOptions;
    onChange: (changed: Partial<ExportOptions>) => void;
  }
  let { format, options, onChange }: Props = $props();
  const words = phrases.options;
  const TIMECODE = '[0-9]{1,2}:[0-5][0-9]:[0-5][0-9][:;][0-9]{2}';
  const SWITCHES = ['times', 'speakers', 'sounds', 'formatting', 'byteOrderMark', 'crlf', 'dropFrame'] as const;
  const has = (name: OptionName): boolean => format.options.includes(name);
</script>

{#if format.options.length > 0}
  <div class="options" role="group" aria-label={words.label}>
    {#each SWITCHES.filter(has) as name (name)}
      <label title={words.hints[name]}
        ><input
          type="checkbox"
          checked={options[name]}
          onchange={(event) => onChange({ [name]: event.currentTarget.checked })}
        />
        {words[name]}</label
      >
    {/each}
    {#if has('offsetMs')}
      <label title={words.hints.offsetMs}
        >{words.offsetMs}
        <input
          class="field"
          type="number"
          step="0.001"
          value={options.offsetMs / 1000}
          onchange={(event) => onChange({ offsetMs: Math.round(event.currentTarget.valueAsNumber * 1000) || 0 })}
        /> s</label
      >
    {/if}
    {#if has('frameRate')}
      <label title={words.hints.frameRate}
        >{words.frameRate}
        <select
          class="field"
          value={options.frameRate}
          onchange={(event) => onChange({ frameRate: event.currentTarget.value as ExportOptions['frameRate'] })}
        >
          {#each Object.keys(FRAME_RATES) as rate (rate)}<option value={rate}>{rate}</option>{/each}
        </select></label
      >
    {/if}
    {#if has('startTimecode')}
      <label title={words.hints.startTimecode}
        >{words.startTimecode}
        <input
          class="field mono"
          value={options.startTimecode}
          pattern={TIMECODE}
          onchange={(event) => {
            if (event.currentTarget.validity.valid && event.currentTarget.value !== '')
              onChange({ startTimecode: event.currentTarget.value });
            else event.currentTarget.value = options.startTimecode;
          }}
        /></label
      >
    {/if}
  </div>
{/if}

<style>
  .options {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 20px;
    font-size: 15px;
  }
  .field {
    width: 132px;
    padding: 3px 8px;
    text-align: right;
  }
</style>
