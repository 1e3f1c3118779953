/** The window in front, as the system tells it. */
export interface FrontWindow {
  title: string;
  program: string;
  pid: number | null;
}

/** What one kind of desk can be asked; each system has a way of its own. */
export interface Desk {
  /** As the person knows it. */
  name: string;
  /** @returns null where no window has the front */
  front: () => Promise<FrontWindow | null>;
  /** Milliseconds since keys or pointer were last touched; absent where nothing tells. */
  idle?: () => Promise<number>;
  /** Calls back as soon as the front changes; returns what ends that. */
  onChange?: (changed: () => void) => () => void;
}

/** What a desk does not tell, and how that is mended. */
export interface Lack {
  what: string;
  how: string;
}

/** What was found out about this computer. */
export interface FoundDesk {
  /** Null where the window in front cannot be seen. */
  desk: Desk | null;
  lacks: Lack[];
}
