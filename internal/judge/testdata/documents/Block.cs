using System;
using System.ComponentModel;
using System.Windows;
using System.Windows.Controls;
using App.Text;

namespace BlockNUMBER
{
    internal sealed class Choice : ICultureStore
    {
        public string Load() { return string.Empty; }

        public void Save(string culture) { }
    }

BLOCK //? class
    internal sealed class Block //? ~class
    { //? ~class
        public void Run(TextBlock title) //? ~class
        { //? ~class
BLOCK //? ~class
        } //? ~class
    } //? ~class
}
