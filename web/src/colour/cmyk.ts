import { hexOfRgb, type Rgb, writeCmyk } from '@miradero/core/colour';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../sync/index.ts';

/** The inks of a colour as they are written; undefined until the server says so, or where it is away. */
export function useCmyk(colour: Rgb | undefined): string | undefined {
  const hex = colour && hexOfRgb(colour);
  const { data } = useQuery({
    queryKey: ['cmyk', hex],
    enabled: hex !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: () => ask('GET /api/colours/cmyk', { query: { hex: hex!.slice(1) } }),
  });
  return data && writeCmyk(data.inks as [number, number, number, number]);
}
