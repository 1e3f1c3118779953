declare module 'virtual:client-page-script' {
  /** What a client's page does by itself, built as one piece of script. */
  const script: string;
  export default script;
}
