<script lang="ts">
	import type { Design } from '$lib/api/client';
	import rules from '$lib/api/rules.json';
	import { newId } from '$lib/job/draft';
	import { useFrame } from '$lib/job/frame.svelte';
	import Asked from '$lib/parts/Asked.svelte';
	import Choice from '$lib/parts/Choice.svelte';
	import Fold from '$lib/parts/Fold.svelte';
	import { fig } from '$lib/parts/units';
	import ClockField from './ClockField.svelte';
	let { water }: { water: Design['hot_water'] } = $props();
	const frame = useFrame();
	const session = $derived(frame.session);
	const chosen = $derived(session.scheme ? (session.job?.schemes?.[session.scheme]?.hot_water ?? {}) : null);
	const household = $derived(session.job?.survey?.household ?? {});
	const found = $derived(Object.entries(session.job?.survey?.stores ?? {}));
	const base = $derived(`/schemes/${session.scheme}/hot_water`);
	const put = (field: string, what: string) => (value: number | string | null) =>
		session.edit(`Hot water, ${what}`, (d) => d.put(`${base}/${field}`, value));
	const lives = (field: string, what: string) => (value: number | null) =>
		session.edit(`Household, ${what}`, (d) => d.put(`/survey/household/${field}`, value));
	const windows = $derived(chosen?.windows ?? []);
	const times = (what: string, change: (list: { from_minute: number; to_minute: number }[]) => void) =>
		session.edit(`Hot water, ${what}`, (d) => {
			const list = [...windows.map((one) => ({ ...one }))];
			change(list);
			d.put(`${base}/windows`, list.length ? list : null);
		});
	type Window = (typeof windows)[number];
	/** A time that would end before it begins is moved as a whole: its length stays, as far as the day goes. */
	const moved = (one: Window, end: 'from_minute' | 'to_minute', minute: number): Window => {
		const long = one.to_minute - one.from_minute;
		if (end === 'from_minute') {
			const to = minute < one.to_minute ? one.to_minute : Math.min(minute + long, 1440);
			return { from_minute: minute, to_minute: to };
		}
		const to = minute === 0 ? 1440 : minute;
		return { from_minute: to > one.from_minute ? one.from_minute : Math.max(to - long, 0), to_minute: to };
	};
	const kept = $derived(chosen?.keeps ? session.job?.survey?.stores?.[chosen.keeps] : undefined);
	const OTHERS = [
		{ key: 'collectors', label: 'collectors' },
		{ key: 'boiler', label: 'a boiler' },
		{ key: 'stove', label: 'a stove' }
	] as const;
	const also = (who: (typeof OTHERS)[number]['key'], on: boolean) =>
		session.edit('Hot water, what else heats the store', (d) => {
			const now = new Set(kept?.also ?? []);
			if (on) now.add(who);
			else now.delete(who);
			d.put(`/survey/stores/${chosen?.keeps}/also`, [...now].sort());
		});
	const addStore = () =>
		session.edit('A store that is here now', (d) => {
			const id = newId();
			d.set(`/survey/stores/${id}`, { label: 'The store here now' });
			d.set(`${base}/keeps`, id);
		});
</script>

<h2>Who lives here</h2>
<div class="grid grid-cols-2 gap-2">
	<Asked ask="People" label="People" value={household.people} quantity="whole" commit={lives('people', 'people')} />
	<Asked
		ask="Bedrooms"
		label="Bedrooms"
		value={household.bedrooms}
		quantity="whole"
		commit={lives('bedrooms', 'bedrooms')}
	/>
</div>
{#if chosen}
	<h2 class="mt-2">The store</h2>
	<div class="grid grid-cols-2 gap-2">
		<Asked
			ask="Store volume"
			label="Store volume"
			value={chosen.volume_l}
			placeholder={kept?.volume_l != null ? fig(kept.volume_l, 'L') : '–'}
			digits={0}
			unit="L"
			commit={put('volume_l', 'volume')}
		/>
		<Asked
			ask="Kept at"
			label="Store kept at"
			value={chosen.store_c}
			placeholder={fig(water.store_c, '°C')}
			quantity="temperature"
			digits={0}
			unit="°C"
			commit={put('store_c', 'store temperature')}
		/>
		<label class="text-small text-muted"
			>Heated through<Choice
				label="Heated through"
				value={chosen.exchanger ?? 'coil'}
				options={[
					{ value: 'coil', label: 'its own coil' },
					{ value: 'plate', label: 'a plate exchanger' }
				]}
				commit={(v) => void put('exchanger', 'exchanger')(v ?? 'coil')}
			/></label
		>
		{#if (chosen.exchanger ?? 'coil') === 'coil'}
			<Asked
				ask="Coil"
				label="Coil"
				value={chosen.coil_m2}
				placeholder={fig(water.coil_taken_m2, 'm²', 1)}
				digits={1}
				unit="m²"
				commit={put('coil_m2', 'coil')}
			/>
		{:else}
			<Asked
				ask="Its pump moves"
				label="The exchanger's pump moves"
				value={chosen.plate_flow_lph}
				digits={0}
				unit="L/h"
				commit={put('plate_flow_lph', "exchanger's pump")}
			/>
		{/if}
		<Asked
			ask="Standing loss, label"
			label="Standing loss a day by its label"
			value={chosen.standing_kwh_per_day}
			digits={1}
			unit="kWh"
			commit={put('standing_kwh_per_day', 'standing loss')}
		/>
		<Asked
			ask="Air around it"
			label="Air around the store"
			value={chosen.air_around_c}
			placeholder={fig(rules.store_around_c, '°C')}
			quantity="temperature"
			digits={0}
			unit="°C"
			commit={put('air_around_c', 'air around it')}
		/>
		<Asked
			ask="Immersion"
			label="Immersion"
			value={chosen.immersion_kw}
			placeholder="3"
			digits={1}
			unit="kW"
			commit={put('immersion_kw', 'immersion')}
		/>
	</div>
	<Fold title="When and how it is charged">
		<div class="grid grid-cols-2 gap-2 py-1">
			<Asked
				ask="Cold water"
				label="Cold water"
				value={chosen.cold_c}
				placeholder={fig(water.cold_c, '°C')}
				quantity="temperature"
				digits={0}
				unit="°C"
				commit={put('cold_c', 'cold water')}
			/>
			<Asked
				ask="Begins so far below"
				label="A charge begins so far below"
				value={chosen.band_k}
				placeholder="6"
				digits={0}
				unit="K"
				commit={put('band_k', 'band of a charge')}
			/>
			<Asked
				ask="Sensor, part of height"
				label="Sensor, part of the store's height"
				value={chosen.sensor_share}
				times={100}
				placeholder="50"
				digits={0}
				unit="%"
				commit={put('sensor_share', 'sensor')}
			/>
			<Asked
				ask="Pipes to the taps lose"
				label="Pipes to the taps lose a day"
				value={chosen.distribution_kwh_per_day}
				placeholder="0"
				digits={1}
				unit="kWh"
				commit={put('distribution_kwh_per_day', 'loss of the pipes')}
			/>
			{#if (chosen.exchanger ?? 'coil') === 'coil'}
				<Asked
					ask="Coil passes"
					label="Heat the coil passes per area and kelvin"
					value={chosen.coil_u_w_m2k}
					placeholder={fig(450, 'W/m²K')}
					digits={0}
					unit="W/m²K"
					commit={put('coil_u_w_m2k', 'what the coil passes')}
				/>
			{:else}
				<Asked
					ask="Exchanger passes"
					label="Heat the exchanger passes per kelvin"
					value={chosen.plate_ua_w_k}
					placeholder={fig(water.ua_w_k, 'W/K')}
					digits={0}
					unit="W/K"
					commit={put('plate_ua_w_k', 'what the exchanger passes')}
				/>
			{/if}
		</div>
		<p class="mt-1 text-small text-muted">Charged {windows.length ? 'from, to' : 'at any time'}</p>
		{#each windows as one, n (n)}
			<div class="mb-1 grid grid-cols-[1fr_1fr_auto] items-center gap-1.5">
				<ClockField
					label={`Time ${n + 1} begins`}
					value={one.from_minute}
					commit={(v) => times('a time of charging', (l) => (l[n] = moved(l[n]!, 'from_minute', v)))}
				/>
				<ClockField
					label={`Time ${n + 1} ends`}
					value={one.to_minute}
					commit={(v) => times('a time of charging', (l) => (l[n] = moved(l[n]!, 'to_minute', v)))}
				/>
				<button
					class="btn btn-quiet"
					aria-label={`Take time ${n + 1} out`}
					onclick={() => void times('a time of charging taken out', (l) => l.splice(n, 1))}>×</button
				>
			</div>
		{/each}
		{#if windows.length < 6}<button
				class="btn btn-quiet"
				onclick={() =>
					void times('a time of charging', (l) =>
						l.push(windows.length ? { from_minute: 780, to_minute: 960 } : { from_minute: 60, to_minute: 360 })
					)}>{windows.length ? 'Another time' : 'Charge at certain times only'}</button
			>{/if}
	</Fold>
	<Fold title="A store that stays">
		<div class="grid gap-1.5 py-1">
			{#if found.length}
				<Choice
					label="The store of the survey that stays"
					value={chosen.keeps}
					empty="none: a new one"
					options={found.map(([id, one]) => ({ value: id, label: one.label || 'A store' }))}
					commit={(v) => void put('keeps', 'store that stays')(v)}
				/>
			{:else}<button class="btn btn-quiet justify-self-start" onclick={() => void addStore()}
					>The store here now stays</button
				>{/if}
			{#if kept}
				<p class="text-small text-muted">
					Its litres{kept.coil_m2 ? ' and coil' : ''} count where nothing is said above. What else heats it:
				</p>
				{#each OTHERS as other (other.key)}<label class="flex min-h-8 items-center gap-2 text-small touch:min-h-12"
						><input
							type="checkbox"
							class="checkbox"
							checked={(kept.also ?? []).includes(other.key)}
							onchange={(event) => void also(other.key, event.currentTarget.checked)}
						/>{other.label}</label
					>{/each}
			{/if}
		</div>
	</Fold>
{/if}
