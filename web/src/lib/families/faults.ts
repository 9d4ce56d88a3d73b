/** Fault codes of a family: what a code on the display means. */
import { answer, api, type Schemas } from '../api/client';

export type Fault = Schemas['Fault'];

/** The codes of a family; none without a link, or where nobody wrote them down. */
export async function faultsOf(family: string): Promise<Fault[]> {
	try {
		const found = await answer(
			api.GET('/api/families/{family_id}', { params: { path: { family_id: family } } })
		);
		return found.family.faults;
	} catch {
		return [];
	}
}

/** The fault of a code as typed: spaces, case and leading zeros of its number forgiven. */
export function faultOf(faults: readonly Fault[], typed: string): Fault | undefined {
	const plain = (code: string) => code.toLowerCase().replace(/[\s.-]/g, '').replace(/(^|[a-z])0+(?=\d)/g, '$1'); // prettier-ignore
	return typed.trim() ? faults.find((f) => plain(f.code) === plain(typed)) : undefined;
}
