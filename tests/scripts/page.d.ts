// What stands under an id or a selector is said by the page, not by the script: here it is of any kind, so that the check looks at everything else.
interface NonElementParentNode { getElementById(id: string): any }
interface Document { getElementById(id: string): any }
interface ParentNode {
  querySelector(selectors: string): any;
  querySelectorAll(selectors: string): NodeListOf<any>;
}
interface Element { closest(selectors: string): any }
