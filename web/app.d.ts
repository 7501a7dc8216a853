declare global {
  namespace App {
    interface Error {
      message: string;
      /** It is only the database that is away: the page tries again by itself. */
      away?: boolean;
    }
  }
}

export {};
