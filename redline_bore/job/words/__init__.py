"""What is said: cards, sentences, marks and sheet texts, made from the findings of the steps."""
