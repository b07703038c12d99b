import type { Option } from '$lib/parts/choices';
import { understand } from '$lib/parts/units';

/** A length within a line: "1200", "1.2 m", "47in", "3' 11\"". */
export const LENGTH = String.raw`[\d.,]+\s*(?:mm|cm|m(?![a-z])|ft|in|"|')?(?:\s*[\d./]+(?:\s+\d+/\d+)?\s*(?:"|in))?`;
const SIZED = new RegExp(String.raw`^(.*?)(?:^|\s)(${LENGTH})\s*(?:[x×*]|\s)\s*(${LENGTH})$`, 'i');

export type Hung = { type: string; length_m: number; height_m: number };

/**
 * A radiator in one line: "t22 1200x600", "22 1200 600", "towel 500x1200", "column-4 1,1 x 0,75"; without a kind it is
 * of the kind hung last. Lengths as everywhere: a bare whole number of 100 or more is millimetres. Gives why not, where
 * it is none.
 */
export function oneLine(text: string, types: Option[], last: string): Hung | { error: string } {
	const found = SIZED.exec(text.trim());
	if (!found) return { error: 'kind, length x height: t22 1200x600' };
	const said = (found[1] ?? '').trim().toLowerCase();
	const type = said === '' ? last : kindOf(said, types);
	if (!type) {
		const some = types.slice(0, 6).map((one) => one.value);
		return { error: `no kind is called “${said}” (there are ${some.join(', ')} …)` };
	}
	const [length, height] = [understand(found[2] ?? '', 'length'), understand(found[3] ?? '', 'length')];
	if ('error' in length || 'error' in height) return { error: 'the size is not two lengths' };
	if (length.value <= 0 || height.value <= 0) return { error: 'a length must be more than 0 m' };
	return { type, length_m: length.value, height_m: height.value };
}

/** By its key, by two figures of a panel, by the beginning of its name, by a word in it. */
function kindOf(said: string, types: Option[]): string | null {
	const exact = types.find((one) => one.value === said || one.value === `t${said}`);
	const begins = types.find((one) => one.label.toLowerCase().startsWith(said));
	return (exact ?? begins ?? types.find((one) => one.label.toLowerCase().includes(said)))?.value ?? null;
}
