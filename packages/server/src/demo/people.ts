/** The demo's invented people. One password for all, shown at start and on the sign-in page in demo mode only. */
export const demoPassword = 'harbour-lights';

export const demoInstructor = 'Marit Solano';
export const demoAssistant = 'Bram Ozturk';

export const emailOf = (name: string): string => `${name.toLowerCase().replace(' ', '.')}@harbour.example`;
