/** What every panel is given. */
export interface PanelProps {
  /** What it was opened with. */
  readonly subject: string;
  onClose(): void;
}
