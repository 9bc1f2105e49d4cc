export { demoPasswords, demoShow } from './harbour-finals.ts';
export { shippedLibrary, typeLibrary } from './type-library.ts';
