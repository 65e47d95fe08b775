<script lang="ts">
  import { formatClock } from '$lib/core/time';
  import { titleOf } from '$lib/client/checks/check-list.svelte';
  import { surfaceKey } from '$lib/client/keys/key-sets';
  import type { CommandId } from '$lib/client/keys/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import Mark from './Mark.svelte';
  import { phrases, tellMending } from './phrases';

  /** The finding in hand: what it is, what would mend it, and what can be done. */
  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { checks, contrasts } = desk;
  const words = phrases.panel;

  const finding = $derived(checks.current);
  const told = $derived(checks.proposal === null ? [] : tellMending(checks.proposal.commands, desk.track));
  const stands = $derived(finding === null ? undefined : checks.accepted.get(finding.key));
  let reason = $state('');
  let field = $state<HTMLInputElement | undefined>();
  $effect(() => {
    if (!checks.isLettingStand) return;
    reason = checks.lastReason;
    field?.focus();
    field?.select();
  });

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    void checks.letStand(reason.trim());
    desk.surface?.focus();
  }
  function giveUp(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return;
    event.stopPropagation();
    checks.isLettingStand = false;
    desk.surface?.focus();
  }
</script>

<section
  aria-label={words.label}
  aria-busy={finding?.fixable === true && checks.proposal === null}
  data-testid="finding"
>
  {#if finding !== null}
    <p class="place soft">
      <span>{phrases.groups[finding.group]} · {phrases.severities[finding.severity]}</span>
      <span class="mono">{formatClock(finding.startMs)} · {words.place(checks.at + 1, checks.listed.length)}</span>
    </p>
    <h3><Mark severity={finding.severity} /> {titleOf(finding)}</h3>
    <p class="message">{finding.message}</p>
    {#if checks.mending !== null}
      <p class="soft" role="status">{words.mending}</p>
      <ProgressBar label={words.mending} progress={checks.mending} />
      <p class="acts">
        <button class="act" onclick={() => checks.cancelMending()}>{words.cancel}</button>
      </p>
    {:else if stands !== undefined}
      <p class="stands">{words.standsFor(stands)}</p>
      <p class="acts">
        <button class="act" onclick={() => onCommand('reconsiderFault')}
          >{words.reconsider} <kbd>{surfaceKey('reconsiderFault')}</kbd></button
        >
      </p>
    {:else}
      {#if !finding.fixable}<p class="soft">{words.noMending}</p>
      {:else if checks.proposal === null}<p class="soft">{words.looking}</p>
      {:else if checks.proposal.commands.length === 0}<p class="soft">{words.worse}</p>
      {:else}
        <div class="mending">
          <p class="soft">{words.wouldMend}</p>
          {#each told as line, at (at)}<p>{line}</p>{/each}
        </div>
      {/if}
      {#if checks.isLettingStand}
        <form onsubmit={keep}>
          <label for="reason">{words.reason} <span class="soft">{words.reasonHint}</span></label>
          <input
            id="reason"
            class="field"
            maxlength="500"
            autocomplete="off"
            bind:value={reason}
            bind:this={field}
            onkeydown={giveUp}
          />
          <p class="acts">
            <button class="act filled">{words.keep} <kbd>Enter</kbd></button>
            <button type="button" class="act quiet" onclick={() => (checks.isLettingStand = false)}
              >{words.cancel} <kbd>Esc</kbd></button
            >
          </p>
        </form>
      {:else}
        <p class="acts">
          <button
            class="act filled"
            disabled={checks.proposal === null || checks.proposal.commands.length === 0}
            onclick={() => onCommand('mendFault')}>{words.mend} <kbd>{surfaceKey('mendFault')}</kbd></button
          >
          <button class="act" onclick={() => onCommand('letStand')}
            >{words.letStand} <kbd>{surfaceKey('letStand')}</kbd></button
          >
          <button class="act" onclick={() => onCommand('nextFault')}
            >{words.next} <kbd>{surfaceKey('nextFault')}</kbd></button
          >
          {#if checks.alike.length > 1}
            <button class="act" onclick={() => onCommand('mendKind')}
              >{words.mendKind(checks.alike.length)} <kbd>{surfaceKey('mendKind')}</kbd></button
            >
          {/if}
        </p>
      {/if}
    {/if}
    <p class="acts">
      <button class="act quiet" onclick={() => onCommand('goRead')}
        >{words.inRead} <kbd>{surfaceKey('goRead')}</kbd></button
      >
      <button class="act quiet" onclick={() => onCommand('goTime')}
        >{words.inTime} <kbd>{surfaceKey('goTime')}</kbd></button
      >
    </p>
  {:else if checks.listed.length > 0}
    <p class="soft">{words.about}</p>
    <p class="acts">
      <button class="act filled" onclick={() => onCommand('nextFault')}
        >{words.go} <kbd>{surfaceKey('nextFault')}</kbd></button
      >
    </p>
  {/if}
  {#if contrasts.job !== null}
    <p class="soft" role="status">{words.measuring(Math.round(contrasts.job.progress * 100))}</p>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 10px;
  }
  .place {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    font-size: 14px;
  }
  h3 {
    display: flex;
    align-items: center;
    gap: 9px;
    font-size: 17px;
    font-weight: 700;
  }
  .message {
    overflow-wrap: anywhere;
  }
  .mending,
  .stands {
    padding: 8px 12px;
    border-left: 3px solid var(--leaf);
    background: var(--sheet);
    overflow-wrap: anywhere;
  }
  .mending .soft {
    font-size: 14px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .filled kbd {
    color: inherit;
  }
  form {
    display: grid;
    gap: 8px;
  }
</style>
