/** What is known of a frame that came back from another program. */
export interface Outside {
  /** Name of the frame that was handed over. */
  of: string;
  /** Days, as YYYY-MM-DD. */
  handed: string;
  back: string;
  /** Its pixels when it was handed over, where it came back with others. */
  was: { width: number; height: number } | null;
}

export function outsideSentence({ of, handed, back, was }: Outside): string {
  const size = was ? ` Its size was changed as well, from ${was.width} × ${was.height} px.` : '';
  return `Changed in another program: ${of} was handed over on ${handed}, and came back on ${back}.${size}`;
}
