import type { Glass } from '@conch/core/house'
import type { DrinkToLearn, Question } from '@conch/core/learn'

/** A question as it is read aloud. */
export function questionText(question: Question): string {
  switch (question.kind) {
    case 'amount':
      return `How much ${question.bottle}?`
    case 'order':
      return 'In which order is it poured?'
    case 'chill':
      return `How long on the ${question.station}?`
    case 'ice':
      return `How much ${question.iceName}?`
    case 'glass':
      return 'In which glass?'
    case 'garnish':
      return 'What goes on it?'
    case 'allergens':
      return 'What does the guest have to hear?'
    case 'dark':
      return `${question.bottle} is out: what goes dark?`
    case 'picture':
      return 'Which drink is this?'
  }
}

const list = (all: readonly string[]) => all.join(', ')

/** Its answer. */
export function answerText(question: Question, glasses: readonly Glass[], drinks: readonly DrinkToLearn[]): string {
  switch (question.kind) {
    case 'amount':
      return question.text
    case 'order':
      return list(question.bottles)
    case 'chill':
      return `${question.durationS} s`
    case 'ice':
      return `${Math.round(question.massG)} g`
    case 'glass':
      return glasses.find((g) => g.slug === question.glass)?.name ?? question.glass
    case 'garnish':
      return list(question.texts)
    case 'allergens':
      return question.allergens.length > 0
        ? list(question.allergens)
        : 'nothing: none of the listed allergens is poured'
    case 'dark':
      return list(question.drinks.map((slug) => drinks.find((d) => d.drink === slug)?.name ?? slug))
    case 'picture':
      return question.name
  }
}
