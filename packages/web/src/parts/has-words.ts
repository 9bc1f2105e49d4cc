/** Does a text have every word that was typed into a filter, in whatever order? */
export function hasWords(filter: string): (text: string) => boolean {
  const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
  return (text) => {
    const lower = text.toLowerCase();
    return words.every((word) => lower.includes(word));
  };
}
