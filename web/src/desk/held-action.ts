/** What a held key makes of the next drag or of the wheel. */
export type HeldAction = 'pan' | 'zoom' | 'turn' | 'fade';
