import { redirect } from '@sveltejs/kit';

export function load({ params }: { params: { id: string } }): never {
	redirect(307, `/job/${params.id}/rooms`);
}
