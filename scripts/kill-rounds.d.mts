export function killRounds(wanted: {
  rounds: number;
  dataDir: string;
  seed: number;
  say?: (text: string) => void;
}): Promise<{ acknowledged: number; lost: string[]; twice: string[] }>;
