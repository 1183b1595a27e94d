/** The few of it that are used here. */
declare module 'plotly.js-basic-dist-min' {
  const plotly: {
    react(box: HTMLElement, data: object[], layout: object, config: object): Promise<unknown>;
  };
  export default plotly;
}
